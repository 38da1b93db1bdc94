/** What only an author knows of a table, asked where it cannot be told: how it writes numbers, how dates were counted. */
import { ApiError } from '../../api/client'
import { CALENDARS } from '../inputs/calendarWords'

interface Question {
  /** The word that the answer is sent as. */
  name: string
  text: string
  answers: [word: string, label: string][]
}

const QUESTIONS: Question[] = [
  { name: 'numbers', text: 'How does the table write numbers?', answers: ['1,234.5', '1.234,5'].map((way) => [way, `Like ${way}`]) },
  { name: 'dates', text: 'How did your training script count dates?', answers: CALENDARS.filter(([word]) => word !== '') },
]

/** The question that a refusal asks; null if it only says what is wrong. */
export function questionIn(error: unknown): Question | null {
  const faults = error instanceof ApiError ? (error.problem.errors ?? []) : []
  return QUESTIONS.find((one) => faults.some((fault) => fault.message.includes(`send \`${one.name}\``))) ?? null
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
          {fault.message.split(' Say how')[0]}
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
