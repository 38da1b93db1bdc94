/** From where on a class is said, where the author has set that: the likelier class may not be the one that is said. */
import type { ClassSetting } from '../../api/client'

export function ThresholdWords({ setting }: { setting: ClassSetting }) {
  const { threshold, threshold_of } = setting
  const wording = setting.classes.find((one) => one.name === threshold_of)
  if (typeof threshold !== 'number' || !wording) return null
  return (
    <p className="text-[0.94em] text-soft">
      “{wording.headline}” is said from {Math.round(threshold * 100)} of 100 on: the author of this page chose that.
    </p>
  )
}
