/**
 * Registries may lack some packages' builds for other platforms. npm then drops them from the lock
 * file, and `npm ci` objects that they are missing. This adds an entry for each absent optional
 * dependency, so that `npm ci` passes; run it after every `npm install`.
 */
import { readFileSync, writeFileSync } from 'node:fs';

const file = new URL('../package-lock.json', import.meta.url);
const lock = JSON.parse(readFileSync(file, 'utf8'));
let added = 0;
for (const [path, entry] of Object.entries(lock.packages)) {
  for (const [name, version] of Object.entries(entry.optionalDependencies ?? {})) {
    if (found(path, name)) continue;
    const target = platformOf(name);
    lock.packages[`node_modules/${name}`] = { version: version.replace(/^[\^~]/, ''), ...target, optional: true, ...(entry.dev ? { dev: true } : {}) };
    added++;
  }
}
lock.packages = Object.fromEntries(Object.entries(lock.packages).sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0)));
writeFileSync(file, JSON.stringify(lock, null, 2) + '\n');
console.log(`package-lock.json: ${added} entries added for other platforms`);

function found(path, name) {
  for (let at = path; ; at = at.slice(0, Math.max(0, at.lastIndexOf('/node_modules/')))) {
    if (lock.packages[`${at ? `${at}/` : ''}node_modules/${name}`]) return true;
    if (!at) return false;
  }
}

/** Platform fields from the usual naming "…-linux-arm64-musl". */
function platformOf(name) {
  const os = /darwin|win32|linux|android|freebsd|openharmony/.exec(name)?.[0];
  const cpu = /arm64|x64|ia32|ppc64|s390x|riscv64|loong64|wasm32|arm(?!64)/.exec(name)?.[0];
  const libc = /musl/.test(name) ? 'musl' : os === 'linux' && /gnu/.test(name) ? 'glibc' : null;
  return { ...(os ? { os: [os] } : {}), ...(cpu ? { cpu: [cpu] } : {}), ...(libc ? { libc: [libc] } : {}) };
}
