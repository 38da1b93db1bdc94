/** What only an author knows, asked where it cannot be told: how a table writes numbers, how dates were counted, which
 * of several functions answers. */
import { ApiError } from '../../api/client'
import { CALENDARS } from '../inputs/calendarWords'

interface Question {
  /** The word that the answer is sent as. */
  name: string
  text: string
  answers: [word: string, label: string][]
}

/** What is asked, by the word that the answer is sent as. */
const QUESTIONS: Record<string, string> = {
  numbers: 'How does the table write numbers?',
  dates: 'How did your training script count dates?',
  function_name: 'Which one answers?',
}

/** The question that a refusal asks; null if it only says what is wrong. */
export function questionIn(error: unknown): Question | null {
  const faults = error instanceof ApiError ? (error.problem.errors ?? []) : []
  const asking = faults.find((fault) => fault.asks && fault.asks in QUESTIONS && fault.choices?.length)
  if (!asking?.asks) return null
  const { asks, choices = [] } = asking
  return { name: asks, text: QUESTIONS[asks] ?? '', answers: choices.map((word) => [word, labelOf(asks, word)]) }
}

function labelOf(asks: string, word: string): string {
  if (asks === 'numbers') return `Like ${word}`
  return (asks === 'dates' && CALENDARS.find(([calendar]) => calendar === word)?.[1]) || word
}

interface TableQuestionProps {
  question: Question
  error: unknown
  onTold: (words: Record<string, string>) => void
}

export function TableQuestion({ question, error, onTold }: TableQuestionProps) {
  const faults = error instanceof ApiError ? (error.problem.errors ?? []) : []
  return (
    <fieldset>
      <legend className="font-bold">{question.text}</legend>
      {faults.map((fault) => (
        <p key={fault.message} className="text-caution">
          {fault.message.split(' Say ')[0]}
        </p>
      ))}
      <p className="mt-2 flex flex-wrap gap-x-4 gap-y-2">
        {question.answers.map(([word, label]) => (
          <button key={word} type="button" className="button-plain" onClick={() => onTold({ [question.name]: word })}>
            {label}
          </button>
        ))}
      </p>
    </fieldset>
  )
}
