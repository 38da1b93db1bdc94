/** The figures that a check rests on, as lines of a small chart; none where its sentence says it all. */
import type { CheckResult, Field } from '../../api/client'
import { groupedText, numberText } from '../../domain/format'
import { ofHundred } from '../../domain/ofHundred'

export interface FigureLine {
  label: string
  /** How long its bar is, from 0 to 1. */
  share: number
  text: string
}

export interface Figures {
  /** What the lines are of. */
  caption: string
  lines: FigureLine[]
  /** Lines that are left out. */
  more: number
}

const MOST_LINES = 12

interface Bin {
  predicted: number
  happened: number
  cases: number
}

export function figuresOf({ name, evidence = {} }: Pick<CheckResult, 'name' | 'evidence'>, fields: Pick<Field, 'name' | 'label'>[]): Figures | null {
  const numberOf = (key: string) => (typeof evidence[key] === 'number' ? evidence[key] : null)
  const labels = new Map(fields.map((field) => [field.name, field.label]))
  switch (name) {
    case 'class-order':
      return pair('Right, of 100 known cases', ['with classes named as they are', numberOf('right')], ['with their names swapped', numberOf('right_with_names_swapped')])
    case 'report':
      return (
        pair('Right, of 100 known cases', ['the model', numberOf('right')], ['who always says the commonest class', numberOf('commonest_class')]) ??
        scaled('Mean square error', [
          ['the model', numberOf('mean_square_error')],
          ['who always says the mean', numberOf('of_always_the_mean')],
        ])
      )
    case 'every-field':
      return scaled('How far the answer moves on average when only this value does', named(evidence.moved_on_average, labels))
    case 'leakage':
      return shares('How much of the outcome each field tells alone, of 100', named(evidence.right_alone, labels))
    case 'calibration': {
      const bins = (Array.isArray(evidence.bins) ? evidence.bins : []) as Bin[]
      return shares(
        'How often it came true, of 100',
        bins.map((bin) => [`it said ${ofHundred(bin.predicted)} of 100 (${groupedText(bin.cases)} ${bin.cases === 1 ? 'case' : 'cases'})`, bin.happened]),
      )
    }
    default:
      return null
  }
}

type Line = [label: string, value: number | null]

function named(values: unknown, labels: Map<string, string>): Line[] {
  const entries = Object.entries((values ?? {}) as Record<string, unknown>)
  return entries.map(([name, value]) => [labels.get(name) ?? name, typeof value === 'number' ? value : null])
}

function pair(caption: string, ...lines: Line[]): Figures | null {
  return lines.every(([, value]) => value !== null) ? shares(caption, lines) : null
}

/** Shares of one. */
function shares(caption: string, lines: Line[]): Figures | null {
  return lined(caption, lines, 1, (value) => String(ofHundred(value)))
}

/** Amounts, the largest as long as there is room. */
function scaled(caption: string, lines: Line[]): Figures | null {
  const most = Math.max(...lines.map(([, value]) => value ?? 0))
  return lined(caption, lines, most || 1, (value) => numberText(Number(value.toPrecision(3))))
}

function lined(caption: string, lines: Line[], whole: number, textOf: (value: number) => string): Figures | null {
  const known = lines.filter((line): line is [string, number] => line[1] !== null)
  if (known.length === 0) return null
  const shown = known.slice(0, MOST_LINES)
  return {
    caption,
    lines: shown.map(([label, value]) => ({ label, share: Math.min(1, Math.max(0, value / whole)), text: textOf(value) })),
    more: known.length - shown.length,
  }
}
