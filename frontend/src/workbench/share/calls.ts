/** Calls that ask a demo from a program: they work as they are pasted, for the demo as it is. */
import type { DemoState, Field, Inputs, InputValue } from '../../api/client'
import { isoOf } from '../../domain/calendars'

export interface Calls {
  curl: string
  python: string
  javascript: string
}

/** What stands for a value that only whoever calls has. */
const FILE_NAME = 'picture.jpg'

/** What a call is about. */
export type Called = Pick<DemoState, 'slug' | 'fields' | 'samples' | 'access' | 'release'>

/** Whether a call needs a key: only its author sees a demo that is not open to everyone. */
export function needsKey(demo: Pick<DemoState, 'access' | 'release'>): boolean {
  return demo.release === null || demo.access.access !== 'everyone'
}

/** Calls about the case that the page shows; before it has said which, about a ready one or where the page starts. */
export function callsOf(demo: Called, origin: string, shown: Inputs | null): Calls {
  const inputs = valuesOf(demo, shown ?? ((demo.samples?.[0]?.inputs ?? {}) as Inputs))
  const pictures = demo.fields.filter((field) => field.kind === 'picture' || (field.kind === 'drawing' && !(field.name in inputs)))
  const address = `${origin}/api/v1/demos/${demo.slug}/predictions${demo.release === null ? '?draft=1' : ''}`
  const key = needsKey(demo)
  return pictures.length > 0 ? withPictures(address, inputs, pictures, key) : withValues(address, inputs, key)
}

/** A value for every field that is not a picture, nor fixed by the author. */
function valuesOf(demo: Called, own: Inputs): Record<string, unknown> {
  const values: Record<string, unknown> = {}
  for (const field of demo.fields.filter((one) => !one.hidden)) {
    const value = own[field.name]
    if (field.kind === 'drawing') {
      if (typeof value === 'object' && value !== null && 'strokes' in value && value.strokes) values[field.name] = { strokes: value.strokes }
    } else if (field.kind !== 'picture') values[field.name] = written(field, value)
  }
  return values
}

/** As a person would send it: a date where a number stands for one. What is not known is sent as such. */
function written(field: Field, own: InputValue | undefined): unknown {
  const value = own === undefined || (own === null && !field.optional) ? startOf(field) : own
  return (field.kind === 'number' && field.calendar && typeof value === 'number' && isoOf(value, field.calendar)) || value
}

function startOf(field: Field): unknown {
  if (field.default !== null && field.default !== undefined) return field.default
  switch (field.kind) {
    case 'number':
      return field.seen.low
    case 'choice':
      return field.options[0]?.value ?? null
    case 'yes_no':
      return false
    case 'text':
      return 'Write the text here.'
    default:
      return null
  }
}

function withValues(address: string, inputs: Record<string, unknown>, key: boolean): Calls {
  const body = JSON.stringify({ inputs })
  return {
    curl: [
      `curl '${address}' \\`,
      ...(key ? [`  -H "Authorization: Bearer $PLAINWINDOW_KEY" \\`] : []),
      `  -H 'Content-Type: application/json' \\`,
      `  -d '${body.replaceAll("'", String.raw`'\''`)}'`,
    ].join('\n'),
    python: [
      'import json',
      ...(key ? ['import os'] : []),
      'import urllib.request',
      '',
      `inputs = json.loads(r"""${JSON.stringify(inputs)}""")`,
      'request = urllib.request.Request(',
      `    "${address}",`,
      '    json.dumps({"inputs": inputs}).encode(),',
      `    {"Content-Type": "application/json"${key ? ', "Authorization": "Bearer " + os.environ["PLAINWINDOW_KEY"]' : ''}},`,
      ')',
      'print(json.load(urllib.request.urlopen(request))["answer"])',
    ].join('\n'),
    javascript: [
      `const response = await fetch(${JSON.stringify(address)}, {`,
      "  method: 'POST',",
      `  headers: { 'Content-Type': 'application/json'${key ? ", Authorization: 'Bearer ' + process.env.PLAINWINDOW_KEY" : ''} },`,
      `  body: JSON.stringify({ inputs: ${JSON.stringify(inputs)} }),`,
      '})',
      'console.log((await response.json()).answer)',
    ].join('\n'),
  }
}

function withPictures(address: string, inputs: Record<string, unknown>, pictures: Field[], key: boolean): Calls {
  const rest = JSON.stringify(inputs)
  const hasRest = Object.keys(inputs).length > 0
  const named = pictures.map(({ name }, at) => ({ name, file: pictures.length > 1 ? `${at + 1}-${FILE_NAME}` : FILE_NAME }))
  return {
    curl: [
      `curl '${address}' \\`,
      ...(key ? [`  -H "Authorization: Bearer $PLAINWINDOW_KEY" \\`] : []),
      ...(hasRest ? [`  --form-string 'inputs=${rest.replaceAll("'", String.raw`'\''`)}' \\`] : []),
      named.map(({ name, file }) => `  -F '${name}=@${file}'`).join(' \\\n'),
    ].join('\n'),
    python: [
      ...(key ? ['import os'] : []),
      'import requests',
      '',
      'answer = requests.post(',
      `    "${address}",`,
      ...(key ? ['    headers={"Authorization": "Bearer " + os.environ["PLAINWINDOW_KEY"]},'] : []),
      ...(hasRest ? [`    data={"inputs": r"""${rest}"""},`] : []),
      `    files={${named.map(({ name, file }) => `${JSON.stringify(name)}: open("${file}", "rb")`).join(', ')}},`,
      ')',
      'print(answer.json()["answer"])',
    ].join('\n'),
    javascript: [
      "import { openAsBlob } from 'node:fs'",
      '',
      'const form = new FormData()',
      ...(hasRest ? [`form.append('inputs', ${JSON.stringify(rest)})`] : []),
      ...named.map(({ name, file }) => `form.append(${JSON.stringify(name)}, await openAsBlob('${file}'), '${file}')`),
      `const response = await fetch(${JSON.stringify(address)}, {`,
      "  method: 'POST',",
      ...(key ? ["  headers: { Authorization: 'Bearer ' + process.env.PLAINWINDOW_KEY },"] : []),
      '  body: form,',
      '})',
      'console.log((await response.json()).answer)',
    ].join('\n'),
  }
}
