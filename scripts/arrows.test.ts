import { spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, expect, it } from 'vitest';

const root = fileURLToPath(new URL('..', import.meta.url));

/** Files with a wrong arrow each, the rule that must catch it, and one that is right. */
const probes = [
  [
    'core/src/arrow-probe/a.ts',
    "import { makeDemo } from '@half-penny/demo';\nexport const a = makeDemo;\n",
    'core-reaches-nothing',
  ],
  [
    'core/src/arrow-probe/b.ts',
    "import { readFileSync } from 'node:fs';\nexport const b = readFileSync;\n",
    'core-is-pure',
  ],
  ['core/src/arrow-probe/c.ts', "import { useState } from 'react';\nexport const c = useState;\n", 'core-is-pure'],
  ['core/src/money/arrow-probe.ts', "import type { Id } from '../model/ids';\nexport type H = Id;\n", 'core-money'],
  [
    'core/src/engine/arrow-probe.ts',
    "import { domain } from '../commands/domain';\nexport const i = domain;\n",
    'core-engine',
  ],
  [
    'formats/src/arrow-probe/d.ts',
    "import { invoiceView } from '@half-penny/documents';\nexport const d = invoiceView;\n",
    'formats-reach-core',
  ],
  [
    'web/src/parts/arrow-probe/e.ts',
    "import { places } from '../../app/sections';\nexport const e = places;\n",
    'parts-never-import-screens',
  ],
  [
    'web/src/screens/arrow-probe/f.ts',
    "import { rowsOfDay } from '../today/day-rows';\nexport const f = rowsOfDay;\n",
    'screens-never-import-screens',
  ],
  [
    'formats/src/arrow-probe/g.ts',
    "import { canonical } from '@half-penny/core/model';\nexport const g = canonical;\n",
    null,
  ],
] as const;

interface Cruise {
  summary: { violations: { from: string; rule: { name: string } }[] };
}
let violations: Cruise['summary']['violations'];

/** A copy of what the rules look at: wrong arrows are made there, never where people work. */
let copy: string;

beforeAll(() => {
  copy = mkdtempSync(join(tmpdir(), 'half-penny-arrows-'));
  const left = ['node_modules', 'dist', 'public'];
  for (const name of ['core', 'formats', 'documents', 'web', 'package.json', 'tsconfig.json', 'tsconfig.base.json'])
    cpSync(join(root, name), join(copy, name), {
      recursive: true,
      filter: (path) => !left.includes(basename(path)),
    });
  cpSync(join(root, '.dependency-cruiser.cjs'), join(copy, '.dependency-cruiser.cjs'));
  symlinkSync(join(root, 'node_modules'), join(copy, 'node_modules'));
  for (const [path, content] of probes) {
    mkdirSync(dirname(join(copy, path)), { recursive: true });
    writeFileSync(join(copy, path), content);
  }
  const paths = probes.map(([path]) => path);
  const { stdout } = spawnSync(
    join(root, 'node_modules/.bin/depcruise'),
    ['--config', '.dependency-cruiser.cjs', '--output-type', 'json', ...paths],
    { cwd: copy, encoding: 'utf8', maxBuffer: 1 << 28 },
  );
  ({ violations } = (JSON.parse(stdout) as Cruise).summary);
});
afterAll(() => rmSync(copy, { recursive: true, force: true }));

it.each(probes)('%s is judged as it should be', (path, _, rule) => {
  const found = violations.filter((violation) => violation.from === path).map((violation) => violation.rule.name);
  expect(found).toEqual(rule === null ? [] : [rule]);
});
