// After `npm install`: make package-lock.json whole, so that `npm ci` takes it.
//
// Some registries serve only the native builds of one platform. npm then leaves the other platforms' optional packages
// out of the lock file, and `npm ci` refuses it. They are written in here by name and version, marked for their
// platform, so that no machine asks for one that is not its own. Registry addresses are taken out.
import { readFileSync, writeFileSync } from 'node:fs'

const path = new URL('../package-lock.json', import.meta.url)
const lock = JSON.parse(readFileSync(path, 'utf8'))
const systems = ['android', 'darwin', 'freebsd', 'linux', 'netbsd', 'openbsd', 'openharmony', 'sunos', 'aix', 'win32']
const processors = ['arm64', 'arm', 'x64', 'ia32', 'loong64', 'mips64el', 'ppc64', 'riscv64', 's390x', 'wasm32']

for (const entry of Object.values(lock.packages)) {
  delete entry.resolved
  for (const [name, version] of Object.entries(entry.optionalDependencies ?? {})) {
    lock.packages[`node_modules/${name}`] ??= { version, dev: true, optional: true, ...platformOf(name) }
  }
}
lock.packages = Object.fromEntries(Object.entries(lock.packages).sort(([a], [b]) => (a < b ? -1 : 1)))
writeFileSync(path, `${JSON.stringify(lock, null, 2)}\n`)

function platformOf(name) {
  const words = name.replace('wasm32-wasi', 'wasm32').replace('ppc64le', 'ppc64').replace('riscv64gc', 'riscv64').split(/[/-]/)
  const os = systems.filter((system) => words.includes(system))
  const cpu = processors.filter((processor) => words.includes(processor))
  const libc = words.some((word) => word.startsWith('musl')) ? ['musl'] : []
  return { ...(cpu.length && { cpu }), ...(os.length && { os }), ...(libc.length && { libc }) }
}
