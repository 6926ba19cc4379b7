import { useNotice } from '~/stores/notice'

/** Puts a text on the clipboard and says so; where the browser refuses, the text is shown to be copied by hand. */
export async function copyText(text: string, copied: string): Promise<void> {
  const notice = useNotice()
  await navigator.clipboard.writeText(text).then(() => notice.show(copied), () => notice.show(text))
}
