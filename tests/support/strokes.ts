import type { Visitor } from './browser'

/** Dragging over things as people do, with a mouse or a finger, and what fields then show. */

interface Point { x: number, y: number }

export async function stroke({ page }: Visitor, from: Point, to: Point, by: 'mouse' | 'finger' = 'mouse'): Promise<void> {
  const { mouse, touchscreen } = page
  const [begin, move, end] =
    by === 'finger'
      ? [() => touchscreen.touchStart(from.x, from.y), (x: number, y: number) => touchscreen.touchMove(x, y), () => touchscreen.touchEnd()]
      : [
          async () => {
            await mouse.move(from.x, from.y)
            await mouse.down()
          },
          (x: number, y: number) => mouse.move(x, y, { steps: 3 }),
          () => mouse.up(),
        ]
  await begin()
  await move((from.x + to.x) / 2, (from.y + to.y) / 2)
  await move(to.x, to.y)
  await end()
}

/** Drags over a part of a day, given as shares of its width. */
export async function paint(visitor: Visitor, day: string, from: number, to: number, by: 'mouse' | 'finger' = 'mouse'): Promise<void> {
  const box = await (await visitor.find('slider', day)).boundingBox()
  if (!box) throw new Error(`${day} cannot be seen`)
  const y = box.y + box.height / 2
  await stroke(visitor, { x: box.x + box.width * from, y }, { x: box.x + box.width * to, y }, by)
}

export const fieldValue = async (visitor: Visitor, label: string) =>
  (await visitor.find('textbox', label)).evaluate(element => (element as HTMLInputElement).value)
/** An hour of the day as a share of its width, just inside. */
export const at = (hours: number) => hours / 24 + 0.001
