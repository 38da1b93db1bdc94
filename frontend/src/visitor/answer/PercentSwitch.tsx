/** Percentages to one decimal on demand: by key, by touch, by mouse. */

export interface PercentSwitchProps {
  isPercent: boolean
  onChange: (isPercent: boolean) => void
}

export function PercentSwitch({ isPercent, onChange }: PercentSwitchProps) {
  return (
    <button type="button" className="button-quiet text-[0.84em] print:hidden" aria-pressed={isPercent} onClick={() => onChange(!isPercent)}>
      {isPercent ? 'Of 100' : 'In percent'}
    </button>
  )
}
