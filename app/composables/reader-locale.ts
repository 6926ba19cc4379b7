import { englishLocale } from '~~/core/time/format'

/** How times are written beside our English texts: as the reader's own kind of English does it. */
export function useReaderLocale() {
  const headers = useRequestHeaders(['accept-language'])
  return useState('locale', () => {
    const asked = import.meta.server ? headers['accept-language']?.split(/[,;]/)[0] : navigator.language
    return supported(englishLocale(asked?.trim()))
  })
}

function supported(locale: string): string {
  try {
    return Intl.DateTimeFormat.supportedLocalesOf([locale])[0] ?? 'en-GB'
  } catch {
    return 'en-GB'
  }
}
