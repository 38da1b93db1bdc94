/** The demo as a folder: its files as they came, and all that was set. */
export function TakeAlong({ slug }: { slug: string }) {
  return (
    <section className="card-line mt-5 pt-4" aria-labelledby="along-heading">
      <h3 id="along-heading" className="font-bold">
        Take it along
      </h3>
      <p className="max-w-[65ch] text-soft">The draft as a folder: model and tables as they came, and <code>demo.toml</code> with all you set. Brought back, here or elsewhere, it is the same demo.</p>
      <a className="button-quiet" href={`/api/v1/demos/${slug}/folder`} download>
        Download the folder (zip)
      </a>
    </section>
  )
}
