/** A whole demo, as the folder that was taken along: brought back with all that was set. */
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { useLocation } from 'wouter'
import { bringModel } from '../../api/environments'
import { BuildLog } from './BuildLog'
import { Problem } from '../bench/Problem'

export function BringFolder() {
  const [, navigate] = useLocation()
  const [log, setLog] = useState<string[] | null>(null)
  const bring = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData()
      form.append('folder', file)
      return bringModel(form, (progress) => setLog(progress.log ?? null))
    },
    onSettled: () => setLog(null),
    onSuccess: (demo) => navigate(`/demos/${demo.slug}`),
  })
  return (
    <section className="card-line mt-10 pt-5" aria-labelledby="folder-heading">
      <h2 id="folder-heading" className="font-bold">
        Or a whole demo
      </h2>
      <label className="mt-1 block">
        <span>The zip of a folder that was taken along, here or elsewhere</span>
        <input
          type="file"
          accept=".zip,application/zip"
          disabled={bring.isPending}
          onChange={(event) => event.target.files?.[0] && bring.mutate(event.target.files[0])}
          className="mt-1 block w-full text-soft file:mr-4 file:rounded-full file:border file:border-glass file:bg-transparent file:px-4 file:py-1 file:font-bold file:text-glass"
        />
      </label>
      <p role="status" className="text-soft">
        {bring.isPending && (log ? 'Building the libraries that it asks for…' : 'Sending it and opening its model…')}
      </p>
      {log && <BuildLog lines={log} />}
      <Problem error={bring.error} />
    </section>
  )
}
