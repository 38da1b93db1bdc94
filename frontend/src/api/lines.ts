/** Answers that come line by line. */

/** Each line that is not empty, as soon as it is whole. */
export async function* linesOf(body: ReadableStream<Uint8Array>): AsyncGenerator<string> {
  const reader = body.pipeThrough(new TextDecoderStream() as unknown as ReadableWritablePair<string, Uint8Array>).getReader()
  let rest = ''
  for (;;) {
    const { value, done } = await reader.read()
    rest += value ?? ''
    const lines = rest.split('\n')
    rest = lines.pop() ?? ''
    yield* lines.filter(Boolean)
    if (done) return
  }
}
