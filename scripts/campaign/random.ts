/** Random numbers that a seed repeats (Mulberry32). */
export interface Random {
  /** From 0 up to but not including 1. */
  next: () => number
  below: (most: number) => number
  pick: <Item>(items: readonly Item[]) => Item
}

export function randomFrom(seed: number): Random {
  let state = seed >>> 0
  const next = () => {
    state = (state + 0x6D2B79F5) >>> 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32
  }
  const below = (most: number) => Math.floor(next() * most)
  return {
    next, below,
    pick(items) {
      const item = items[below(items.length)]
      if (item === undefined) throw new Error('There is nothing to pick from')
      return item
    },
  }
}
