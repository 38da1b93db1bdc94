/** Hand a file to whoever asked for it, as their browser saves files. */
export function handOver(content: Blob, name: string): void {
  const address = URL.createObjectURL(content)
  const link = Object.assign(document.createElement('a'), { href: address, download: name })
  link.click()
  // The browser has taken it up by then.
  setTimeout(() => URL.revokeObjectURL(address), 60_000)
}
