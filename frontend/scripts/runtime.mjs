// The reader of compiled models as a package with types, and as one file, for whoever asks a model from a page of their own.
import { execFileSync } from 'node:child_process'
import { copyFileSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'

const folder = new URL('../', import.meta.url)
const runtime = new URL('runtime/', folder)
const made = new URL('dist/package/', runtime)
const assets = new URL('dist/assets/', folder)
const { version, license } = JSON.parse(readFileSync(new URL('package.json', folder), 'utf8'))

rmSync(made, { recursive: true, force: true })
execFileSync('npx', ['tsc', '-p', fileURLToPath(new URL('types.tsconfig.json', runtime))], { cwd: fileURLToPath(folder), stdio: 'inherit' })
const types = new URL('types/', made)
for (const name of readdirSync(types, { recursive: true })) {
  if (!name.endsWith('.d.ts')) continue
  const path = new URL(name, types)
  // Modules name each other with their endings, as Node asks for.
  writeFileSync(path, readFileSync(path, 'utf8').replaceAll(/(from '|import\(')(\.{1,2}\/[^']+)'/g, "$1$2.js'"))
}
copyFileSync(new URL('dist/runtime.js', runtime), new URL('runtime.js', made))
copyFileSync(new URL('README.md', runtime), new URL('README.md', made))
const described = { name: 'plain-window-runtime', version, license, type: 'module', sideEffects: false, exports: { '.': { types: './types/index.d.ts', default: './runtime.js' } } }
writeFileSync(new URL('package.json', made), `${JSON.stringify(described, null, 2)}\n`)
mkdirSync(assets, { recursive: true })
execFileSync('npm', ['pack', '--silent', '--pack-destination', fileURLToPath(assets)], { cwd: fileURLToPath(made), stdio: 'ignore' })
copyFileSync(new URL(`plain-window-runtime-${version}.tgz`, assets), new URL('plain-window-runtime.tgz', assets))
rmSync(new URL(`plain-window-runtime-${version}.tgz`, assets))
copyFileSync(new URL('dist/runtime.js', runtime), new URL('plain-window-runtime.js', assets))
