import { expect, it } from 'vitest'
import { NO_HISTORY, remember, undo } from './history'

it('takes a drag for one step and another field for a new one', () => {
  let history = remember(NO_HISTORY, { wall: '7', days: '5' }, 'wall', 0)
  history = remember(history, { wall: '8', days: '5' }, 'wall', 100)
  history = remember(history, { wall: '9', days: '5' }, 'wall', 300)
  history = remember(history, { wall: '10', days: '5' }, 'days', 400)
  const first = undo(history)
  expect(first?.values).toEqual({ wall: '10', days: '5' })
  const second = first && undo(first.history)
  expect(second?.values).toEqual({ wall: '7', days: '5' })
  expect(second && undo(second.history)).toBeNull()
})

it('starts a new step of the same field after a pause', () => {
  const history = remember(remember(NO_HISTORY, { wall: '7' }, 'wall', 0), { wall: '8' }, 'wall', 5000)
  expect(history.past).toEqual([{ wall: '7' }, { wall: '8' }])
})
