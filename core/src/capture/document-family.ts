import { union } from '../time/interval';
import type { DocumentTime } from './documents';
import { tellingFolder } from './subject';

/** One document under all the names it had: a copy, a version and a renamed file are the same work. */
export interface DocumentFamily extends DocumentTime {
  /** The names it had, the first one first; the last is the one it goes by. */
  files: { file: string; first: number; last: number; inView: number }[];
}

/** What stands behind a document's name and tells one copy or version from another. */
const VERSIONS = [
  /[\s_.-]*\((?:\d{1,3}|copy[^)]*|kopie[^)]*)\)$/u,
  /[\s_.-]+(?:copy|kopie|copie|copia|final|draft|old|new|signed|backup|bak)(?:[\s_-]*\d{1,2})?$/u,
  /[\s_.-]+(?:v|r|rev|version)[\s_.-]?(?:\d{1,3}(?:\.\d{1,2})?|[a-h])$/u,
  /[\s_.-]+(?:19|20)\d{2}[-_.]?\d{2}[-_.]?\d{2}$/u,
];

/** What a file is called without what tells its versions apart: "Plot sheet (2).lgp" and "plot-sheet rev-c final.lgp" are one. */
export function familyName(file: string): string {
  const name = file
    .slice(file.lastIndexOf('/') + 1)
    .normalize('NFC')
    .toLowerCase();
  const [, stem = name, ending = ''] = /^(.+?)(\.[a-z0-9]{1,5})?$/u.exec(name) ?? [];
  let rest = stem.replace(/^(?:copy of|kopie von|copie de|copia de)\s+/u, '');
  for (let short = '', again = true; again; rest = short) {
    short = VERSIONS.reduce((text, version) => text.replace(version, ''), rest);
    again = short !== rest && short !== '';
    if (short === '') return name;
  }
  return rest.replace(/[\s_-]+/gu, ' ').trim() + ending;
}

/**
 * Documents under all names they had. Files of one name but for their versions are the same where they lie in the same folder; what lies
 * where anything lies, such as among downloads, goes with the one folder that there is one like it in.
 */
export function documentFamilies(documents: readonly DocumentTime[]): DocumentFamily[] {
  const byName = new Map<string, Map<string, DocumentTime[]>>();
  for (const each of documents) {
    const name = familyName(each.file);
    const folders = byName.get(name) ?? new Map<string, DocumentTime[]>();
    byName.set(name, folders);
    const folder = tellingFolder(each.file.slice(0, Math.max(0, each.file.lastIndexOf('/')))).toLowerCase();
    folders.set(folder, [...(folders.get(folder) ?? []), each]);
  }
  const families: DocumentFamily[] = [];
  for (const folders of byName.values()) {
    const anywhere = folders.get('') ?? [];
    const telling = [...folders].filter(([folder]) => folder !== '').map(([, own]) => own);
    if (telling.length === 1) families.push(familyOf([...telling[0]!, ...anywhere]));
    else {
      families.push(...telling.map(familyOf));
      // Which of several folders it came from is not known; each stays by itself.
      families.push(...anywhere.map((each) => familyOf([each])));
    }
  }
  return families.sort((a, b) => b.inView - a.inView || a.first - b.first);
}

function familyOf(all: readonly DocumentTime[]): DocumentFamily {
  const inOrder = all.toSorted((a, b) => a.last - b.last || a.first - b.first);
  const measured = all.filter((each) => each.hands >= 0);
  return {
    file: inOrder.at(-1)!.file,
    files: inOrder.map(({ file, first, last, inView }) => ({ file, first, last, inView })),
    inView: all.reduce((sum, each) => sum + each.inView, 0),
    hands: measured.length === 0 ? -1 : measured.reduce((sum, each) => sum + each.hands, 0),
    kept: all.flatMap((each) => each.kept).sort((a, b) => a - b),
    clock: union(all.flatMap((each) => each.clock)),
    first: Math.min(...all.map((each) => each.first)),
    last: Math.max(...all.map((each) => each.last)),
  };
}
