// Writes docs/workspace.schema.json from the record schemas; with --check only says whether it is current.
import { readFileSync, writeFileSync } from 'node:fs';
import { workspaceJsonSchema } from '../formats/src/workspace/schema';

const file = new URL('../docs/workspace.schema.json', import.meta.url);
const current = `${JSON.stringify(workspaceJsonSchema(), null, 2)}\n`;
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
