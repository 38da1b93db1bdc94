import { expect, it } from 'vitest'
import { NO_HISTORY, remember, undo } from './history'

const at = (values: Record<string, string>) => ({ values, isAsked: true })

it('takes a drag for one step and another field for a new one', () => {
  let history = remember(NO_HISTORY, at({ wall: '7', days: '5' }), 'wall', 0)
  history = remember(history, at({ wall: '8', days: '5' }), 'wall', 100)
  history = remember(history, at({ wall: '9', days: '5' }), 'wall', 300)
  history = remember(history, at({ wall: '10', days: '5' }), 'days', 400)
  const first = undo(history)
  expect(first?.step).toEqual(at({ wall: '10', days: '5' }))
  const second = first && undo(first.history)
  expect(second?.step).toEqual(at({ wall: '7', days: '5' }))
  expect(second && undo(second.history)).toBeNull()
})

it('starts a new step of the same field after a pause', () => {
  const history = remember(remember(NO_HISTORY, at({ wall: '7' }), 'wall', 0), at({ wall: '8' }), 'wall', 5000)
  expect(history.past).toEqual([at({ wall: '7' }), at({ wall: '8' })])
})
