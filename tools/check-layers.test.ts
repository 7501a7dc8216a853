import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { type Fault, layerFaults } from './check-layers.ts';

describe('layer check', () => {
  it('finds imports against the direction and platform code in core', () => {
    const root = mkdtempSync(join(tmpdir(), 'layers-'));
    for (const layer of ['core', 'scenes', 'server', 'web', 'bench', 'tools']) mkdirSync(join(root, layer));
    const importOf = (path: string): string => `import { x } from '${path}';\n`;
    writeFileSync(
      join(root, 'core/a.ts'),
      `import { x } from '../server/b.ts';\nimport { readFile } from 'node:fs';\n`
    );
    writeFileSync(
      join(root, 'server/b.ts'),
      `import { y } from '../core/a.ts';\nimport z from '$server/c.ts';\n`
    );
    writeFileSync(join(root, 'scenes/c.ts'), importOf('../web/d.ts'));
    for (const folder of ['server/frames', 'server/recipes', 'web/lib', 'web/bench/lens', 'web/bench/sheet'])
      mkdirSync(join(root, folder), { recursive: true });
    writeFileSync(join(root, 'server/frames/low.ts'), importOf('../recipes/high.ts'));
    writeFileSync(join(root, 'server/recipes/high.ts'), importOf('../frames/low.ts'));
    writeFileSync(join(root, 'web/bench/sheet/Low.svelte'), importOf('../lens/High.svelte'));
    writeFileSync(
      join(root, 'web/bench/lens/High.svelte'),
      importOf('../sheet/Low.svelte') + importOf('$lib/x.ts') + importOf('./$types')
    );
    writeFileSync(
      join(root, 'web/lib/x.ts'),
      importOf('$server/recipes/high.ts') + importOf('../routes/y.ts')
    );
    for (const folder of ['math', 'optics', 'elsewhere']) mkdirSync(join(root, 'core', folder));
    writeFileSync(join(root, 'core/math/up.ts'), importOf('../optics/down.ts'));
    writeFileSync(join(root, 'core/optics/down.ts'), importOf('../math/up.ts'));
    writeFileSync(join(root, 'core/elsewhere/e.ts'), importOf('../math/up.ts'));
    writeFileSync(join(root, 'core/math/oracle.ts'), importOf('./slow.oracle.ts'));
    writeFileSync(join(root, 'core/math/slow.oracle.ts'), importOf('../optics/down.ts'));
    writeFileSync(join(root, 'core/math/slow.test.ts'), importOf('./slow.oracle.ts'));
    const byName = (a: Fault, b: Fault): number => (a.file + a.imported < b.file + b.imported ? -1 : 1);
    expect(layerFaults(root).sort(byName)).toEqual([
      { file: 'core/a.ts', imported: '../server/b.ts' },
      { file: 'core/a.ts', imported: 'node:fs' },
      { file: 'core/elsewhere/e.ts', imported: '../math/up.ts' },
      { file: 'core/math/oracle.ts', imported: './slow.oracle.ts' },
      { file: 'core/math/up.ts', imported: '../optics/down.ts' },
      { file: 'scenes/c.ts', imported: '../web/d.ts' },
      { file: 'server/b.ts', imported: '$server/c.ts' },
      { file: 'server/frames/low.ts', imported: '../recipes/high.ts' },
      { file: 'web/bench/sheet/Low.svelte', imported: '../lens/High.svelte' },
      { file: 'web/lib/x.ts', imported: '../routes/y.ts' }
    ]);
  });
});
