import fc from 'fast-check'

/**
 * The full suite draws the same random cases every time, so that it fails for what was changed and for nothing else.
 * Quick runs while working draw new ones each time; TEMPORIA_SEED draws those of a seed.
 */
const asked = process.env['TEMPORIA_SEED'] ?? (process.env['TEMPORIA_FULL'] ? '20270308' : undefined)
if (asked !== undefined) fc.configureGlobal({ seed: Number(asked) })
