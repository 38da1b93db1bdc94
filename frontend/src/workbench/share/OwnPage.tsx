/** The model alone, for a page of its author's own: what to take, and the lines that ask it. */
import type { DemoState } from '../../api/client'
import { Lines } from './Lines'

export function OwnPage({ demo }: { demo: DemoState }) {
  return (
    <div className="mt-5">
      <h4 className="font-bold">For a page of your own</h4>
      <p className="mt-1 max-w-[65ch] text-soft">
        The model by itself, and what reads it in a browser or in Node:{' '}
        <a className="button-quiet" href={`/api/v1/demos/${demo.slug}/compiled`}>
          {demo.slug}.safetensors
        </a>
        ,{' '}
        <a className="button-quiet" href="/assets/plain-window-runtime.js" download>
          plain-window-runtime.js
        </a>
        , or that{' '}
        <a className="button-quiet" href="/assets/plain-window-runtime.tgz" download>
          as a package with types
        </a>
        . Put both beside your page.
      </p>
      <Lines label="Three lines" text={linesOf(demo)} />
    </div>
  )
}

function linesOf({ slug, fields }: DemoState): string {
  const columns = Object.fromEntries(fields.map((field) => [field.name, [field.default ?? null]]))
  return [
    "import { CompiledModel } from './plain-window-runtime.js'",
    `const model = new CompiledModel(new Uint8Array(await (await fetch('${slug}.safetensors')).arrayBuffer()))`,
    `const { data } = model.predict(${JSON.stringify(columns)})`,
  ].join('\n')
}
