// Writes docs/workspace.schema.json from the record schemas; with --check only says whether it is current.
import { readFileSync, writeFileSync } from 'node:fs';
import { describe } from './schema-words';
import { workspaceJsonSchema } from '../formats/src/workspace/schema';

const file = new URL('../docs/workspace.schema.json', import.meta.url);
const schema = JSON.parse(JSON.stringify(workspaceJsonSchema())) as Parameters<typeof describe>[0];
const missing = describe(schema);
if (missing.length > 0) {
  console.error(`Nothing says what these fields mean:\n${missing.join('\n')}`);
  process.exit(1);
}
const current = `${JSON.stringify(schema, null, 2)}\n`;
if (process.argv.includes('--check')) {
  let published = '';
  try {
    published = readFileSync(file, 'utf8');
  } catch {
    // A missing file is as stale as an old one.
  }
  if (published !== current) {
    console.error('docs/workspace.schema.json is not current: run npm run schema.');
    process.exit(1);
  }
} else {
  writeFileSync(file, current);
}
