import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';
import { expect, it } from 'vitest';

// Whoever calls core reads what a function does, in which units and what it refuses where they call it, not in its body.

const root = fileURLToPath(new URL('..', import.meta.url));

const isExported = (node: ts.HasModifiers): boolean =>
  node.modifiers?.some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword) ?? false;

/** Exported functions, classes and constants of a file, without a doc comment; types that are named for what they are go without. */
function bare(file: string): string[] {
  const text = readFileSync(`${root}/${file}`, 'utf8');
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  return source.statements.flatMap((node) => {
    if (!ts.isFunctionDeclaration(node) && !ts.isClassDeclaration(node) && !ts.isVariableStatement(node)) return [];
    if (!isExported(node) || ts.getJSDocCommentsAndTags(node).length > 0) return [];
    const names = ts.isVariableStatement(node)
      ? node.declarationList.declarations.map((each) => each.name.getText(source))
      : [node.name?.text ?? 'default'];
    return names.map((name) => `${file}: ${name}`);
  });
}

it('whatever core exports says what it is', () => {
  const files = readdirSync(`${root}/core/src`, { recursive: true, encoding: 'utf8' }).filter(
    (file) => file.endsWith('.ts') && !file.endsWith('.test.ts') && !file.startsWith('testing/'),
  );
  expect(files.length).toBeGreaterThan(300);
  expect(files.flatMap((file) => bare(`core/src/${file}`))).toEqual([]);
});
