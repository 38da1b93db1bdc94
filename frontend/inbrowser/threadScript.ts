import type { PluginOption, UserConfig } from 'vite'

/** How a script is built that answers in a page that needs no server, in the page and in a thread beside it. */
export function threadScript(entry: URL, name: string, plugins: PluginOption[] = []): UserConfig {
  return {
    publicDir: false,
    plugins,
    build: {
      lib: { entry: entry.pathname, formats: ['iife'], name: 'plainWindowAnswering', fileName: () => name },
      outDir: new URL('dist', import.meta.url).pathname,
      emptyOutDir: false,
      reportCompressedSize: false,
    },
  }
}
