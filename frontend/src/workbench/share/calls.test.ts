import { expect, it } from 'vitest'
import type { Field } from '../../api/client'
import { callsOf, type Called } from './calls'

const seen = { low: 20454, high: 20754, usual_low: 20500, usual_high: 20700, counts: [] }
const number = (name: string, more: object = {}) => ({ kind: 'number', name, label: name, optional: false, hidden: false, default: 5, seen, ...more }) as unknown as Field
const text = { kind: 'text', name: 'words', label: 'Words', optional: false, hidden: false, default: null } as unknown as Field
const picture = { kind: 'picture', name: 'look', label: 'Look', optional: false, hidden: false, default: null } as unknown as Field

function demo(fields: Field[], more: object = {}): Called {
  return { slug: 'pots', fields, samples: [], access: { access: 'everyone' }, release: { number: 1 }, ...more } as unknown as Called
}

/** The inputs that the JavaScript call sends. */
function sent(of: Called, shown: Parameters<typeof callsOf>[2]): unknown {
  return JSON.parse(/inputs: (\{.*\}) \}\)/.exec(callsOf(of, 'http://here', shown).javascript)?.[1] ?? 'null')
}

it('asks about the case that the page shows, then a ready one, then where the page starts', () => {
  const pots = demo([number('wall')], { samples: [{ title: 'Thin', inputs: { wall: 3 } }] })
  expect(sent(pots, { wall: 7.5 })).toEqual({ wall: 7.5 })
  expect(sent(pots, null)).toEqual({ wall: 3 })
  expect(sent(demo([number('wall')]), null)).toEqual({ wall: 5 })
})

it('sends what is not known as such, and leaves out what the author fixed', () => {
  const fields = [number('wall', { optional: true }), number('days', { hidden: true }), number('load')]
  expect(sent(demo(fields), { wall: null, load: null })).toEqual({ wall: null, load: 5 })
})

it('writes a date where a number stands for one', () => {
  expect(sent(demo([number('fired_on', { calendar: 'days' })]), { fired_on: 20513 })).toEqual({ fired_on: '2026-03-01' })
})

it('asks the draft, with a key, where nothing is published', () => {
  const { curl, python } = callsOf(demo([number('wall')], { release: null }), 'http://here', null)
  expect(curl).toContain('http://here/api/v1/demos/pots/predictions?draft=1')
  expect(curl).toContain('Bearer $PLAINWINDOW_KEY')
  expect(python).toContain('os.environ["PLAINWINDOW_KEY"]')
  expect(callsOf(demo([number('wall')]), 'http://here', null).curl).not.toContain('KEY')
})

it('survives quotes of every kind in a text', () => {
  const { curl } = callsOf(demo([text]), 'http://here', { words: `it's "so"` })
  expect(curl).toContain(String.raw`it'\''s \"so\"`)
})

it('names a picture as a file, and says the rest as it is, whatever signs it has', () => {
  const { curl, python } = callsOf(demo([picture, text]), 'http://here', { words: 'a;type=b' })
  expect(curl).toContain(`--form-string 'inputs={"words":"a;type=b"}'`)
  expect(curl).toContain(`-F 'look=@picture.jpg'`)
  expect(python).toContain('files={"look": open("picture.jpg", "rb")}')
})
