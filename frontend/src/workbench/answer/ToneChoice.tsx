/** Whether an answer is good news or bad. */
const TONES = [
  { value: '', label: 'neither good nor bad' },
  { value: 'calm', label: 'good news' },
  { value: 'caution', label: 'take care' },
  { value: 'alert', label: 'bad news' },
] as const

export function ToneChoice({ tone, onChange }: { tone: string; onChange: (tone: string) => void }) {
  return (
    <label className="block">
      <span className="block text-soft">Is it good news?</span>
      <select className="w-full border-b border-edge bg-paper py-0.5" value={tone} onChange={(event) => onChange(event.target.value)}>
        {TONES.map((one) => (
          <option key={one.value} value={one.value}>
            {one.label}
          </option>
        ))}
      </select>
    </label>
  )
}
