import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'vite';

/* The design check is waited for in the browser, so what is measured is bundled as it is for that: run from its source it keeps the name of each inner function, which takes a third of the time. */

const out = mkdtempSync(join(tmpdir(), 'bench-design-'));
try {
  await build({
    configFile: false,
    logLevel: 'error',
    ssr: { noExternal: true },
    build: { ssr: fileURLToPath(new URL('./design/measured.ts', import.meta.url)), outDir: out, minify: true },
  });
  // In a process of its own, which reads it as it is.
  execFileSync(process.execPath, [join(out, 'measured.js')], { stdio: 'inherit' });
} finally {
  rmSync(out, { recursive: true });
}
