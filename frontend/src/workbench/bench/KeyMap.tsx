/** What keys do on the bench; shown with a question mark. */
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react'

const KEYS: [keys: string, what: string][] = [
  ['1 to 5', 'to Model, Inputs, Answer, Checks, Share'],
  ['N, Shift+N', 'the next known case, the one before (under Checks)'],
  ['Ctrl+Enter', 'ask the page on the right about its case'],
  ['K', 'keep its answer to compare'],
  ['Ctrl+Z', 'undo the last change of the draft'],
  ['?', 'this list'],
]

export function KeyMap({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  return (
    <Dialog open={isOpen} onClose={onClose} className="relative z-40">
      <div className="fixed inset-0 flex items-center justify-center bg-ink/25 p-6">
        <DialogPanel className="w-full max-w-lg border border-edge bg-paper p-6">
          <DialogTitle className="font-bold">Keys</DialogTitle>
          <p className="text-soft">They rest while something is being typed. A click on a part of the page on the right opens its settings.</p>
          <dl className="mt-3 grid grid-cols-[auto_1fr] gap-x-6 gap-y-1">
            {KEYS.map(([keys, what]) => (
              <div key={keys} className="contents">
                <dt className="font-bold">{keys}</dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
          <button type="button" className="button-plain mt-4" onClick={onClose}>
            Close
          </button>
        </DialogPanel>
      </div>
    </Dialog>
  )
}
