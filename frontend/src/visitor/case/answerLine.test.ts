import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ApiError, type Inputs, type PredictionAnswer } from '../../api/client'
import { AnswerLine } from './answerLine'

interface Call {
  inputs: Inputs
  signal: AbortSignal
  answer: (value: number) => Promise<void>
  fail: (error: unknown) => Promise<void>
}

function answerOf(value: number): PredictionAnswer {
  return {
    answer: { kind: 'number', value, unit: '', text: String(value) },
    notes: [],
    release: 1,
    timing_ms: { predict: 1, total: 1 },
  }
}

function problem(status: number, retryAfterMs: number | null): ApiError {
  return new ApiError({ type: 'about:blank', title: '', status, detail: 'In a moment.', errors: null, traceback: null }, retryAfterMs)
}

const settled = () => new Promise<void>((resolve) => queueMicrotask(() => queueMicrotask(() => queueMicrotask(resolve))))

describe('AnswerLine', () => {
  let calls: Call[]
  let line: AnswerLine

  beforeEach(() => {
    vi.useFakeTimers()
    calls = []
    line = new AnswerLine(
      (inputs, signal) =>
        new Promise((resolve, reject) => {
          calls.push({
            inputs,
            signal,
            answer: (value) => (resolve(answerOf(value)), settled()),
            fail: (error) => (reject(error), settled()),
          })
        }),
    )
  })
  afterEach(() => {
    vi.useRealTimers()
  })

  it('has one request under way and then asks only the newest inputs', async () => {
    for (const wall of [3, 4, 5, 6]) line.ask({ wall })
    expect(calls.map((call) => call.inputs.wall)).toEqual([3])
    await calls[0]!.answer(30)
    expect(calls.map((call) => call.inputs.wall)).toEqual([3, 6])
    expect(line.read()).toMatchObject({ status: 'answered', isStale: true })
    await calls[1]!.answer(60)
    expect(line.read()).toMatchObject({ status: 'answered', isStale: false, inputs: { wall: 6 } })
  })

  it('waits no longer once it is stopped, and asks again what was stopped', async () => {
    line.ask({ wall: 3 })
    line.stop()
    expect(line.read()).toMatchObject({ status: 'failed', message: 'You stopped it. Nothing you gave is lost.' })
    expect(calls[0]!.signal.aborted).toBe(true)
    await calls[0]!.answer(30)
    expect(line.read()).toMatchObject({ status: 'failed' })
    line.askAgain()
    await calls[1]!.answer(31)
    expect(line.read()).toMatchObject({ status: 'answered', inputs: { wall: 3 } })
    line.ask({ wall: 4 })
    line.stop()
    expect(line.read()).toMatchObject({ status: 'answered', inputs: { wall: 3 }, isHeld: true })
    await calls[2]!.fail(new DOMException('given up', 'AbortError'))
    line.askAgain()
    expect(calls[3]!.inputs).toEqual({ wall: 4 })
  })

  it('drops the answer to what was asked before a reset', async () => {
    line.ask({ wall: 3 })
    line.reset()
    await calls[0]!.answer(30)
    expect(line.read()).toEqual({ status: 'invitation' })
  })

  it('shows no old answer beside inputs that cannot be used', async () => {
    line.ask({ wall: 3 })
    await calls[0]!.answer(30)
    line.refuse([{ field: 'wall', message: 'Wall must be a number.' }])
    expect(line.read().status).toBe('refused')
  })

  it('asks again by itself when told to come back', async () => {
    line.ask({ wall: 3 })
    await calls[0]!.fail(problem(503, 2000))
    expect(line.read()).toEqual({ status: 'waiting', message: 'In a moment. This page asks again by itself.' })
    vi.advanceTimersByTime(1999)
    expect(calls).toHaveLength(1)
    vi.advanceTimersByTime(1)
    expect(calls).toHaveLength(2)
    await calls[1]!.answer(30)
    expect(line.read().status).toBe('answered')
  })

  it('keeps the answer that stood, says why the new one is late, and asks about the newest values only', async () => {
    line.ask({ wall: 3 })
    await calls[0]!.answer(30)
    line.ask({ wall: 4 })
    await calls[1]!.fail(problem(429, 0))
    line.ask({ wall: 5 })
    line.ask({ wall: 6 })
    expect(line.read()).toMatchObject({ status: 'answered', isStale: true, delay: 'In a moment. This page asks again by itself.', inputs: { wall: 3 } })
    expect(calls).toHaveLength(2)
    vi.advanceTimersByTime(1000)
    expect(calls[2]!.inputs).toEqual({ wall: 6 })
    await calls[2]!.answer(60)
    expect(line.read()).toMatchObject({ isStale: false, inputs: { wall: 6 } })
    expect(line.read()).not.toHaveProperty('delay')
  })

  it('waits a second at least and twice as long each time, unless somebody presses for it', async () => {
    line.ask({ wall: 3 })
    await calls[0]!.fail(problem(0, 0))
    vi.advanceTimersByTime(1000)
    await calls[1]!.fail(problem(0, 0))
    vi.advanceTimersByTime(1999)
    expect(calls).toHaveLength(2)
    line.askAgain()
    expect(calls).toHaveLength(3)
    await calls[2]!.answer(30)
    expect(line.read()).toMatchObject({ status: 'answered', isStale: false })
  })

  it('does not ask again when that is no use', async () => {
    line.ask({ wall: 3 })
    await calls[0]!.fail(problem(502, null))
    vi.advanceTimersByTime(60_000)
    expect(calls).toHaveLength(1)
    expect(line.read().status).toBe('failed')
  })
})

describe('a line with a pause', () => {
  beforeEach(() => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'performance'] })
  })
  afterEach(() => {
    vi.useRealTimers()
  })

  it('asks at once, then no more often than the pause, and ends at the last value', async () => {
    const asked: unknown[] = []
    const line = new AnswerLine((inputs) => {
      asked.push(inputs.wall)
      return Promise.resolve(answerOf(1))
    }, 33)
    for (let wall = 1; wall <= 20; wall += 1) {
      line.ask({ wall })
      await vi.advanceTimersByTimeAsync(10)
    }
    await vi.advanceTimersByTimeAsync(100)
    expect(asked[0]).toBe(1)
    expect(asked.length).toBeLessThanOrEqual(8)
    expect(asked.at(-1)).toBe(20)
    expect(line.read()).toMatchObject({ status: 'answered', isStale: false })
  })
})
