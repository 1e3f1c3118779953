import type { Id } from '../model/ids';
import type { Contact, Invoice } from '../model/records';
import type { DraftLine } from './draft-line';
import type { Pricer } from './pricer';

/** More names than this say nothing of who is to read it. */
const MOST = 3;

/** Who answers for a project at its client: its own contacts, or those of the nearest project around it that has any. */
export function contactsOf({ book, tree }: Pick<Pricer, 'book' | 'tree'>, projectId: Id): Contact[] {
  for (const project of tree.upFrom(projectId)) {
    const own = book.contacts.filter(
      (contact) => contact.clientId === project.clientId && contact.projectIds?.includes(project.id),
    );
    if (own.length > 0) return own.sort((a, b) => a.name.localeCompare(b.name));
  }
  return [];
}

/** Who an invoice is for at the client: as it was written on the draft, or the contacts of the projects on it; empty for nobody. */
export function attentionOf(pricer: Pricer, invoice: Pick<Invoice, 'attention'>, lines: readonly DraftLine[]): string {
  if (typeof invoice.attention === 'string') return invoice.attention.trim();
  const names = new Set<string>();
  const projects = new Set(
    lines.flatMap((line) => [
      ...line.sources.map(({ entry }) => entry.projectId!),
      ...line.charges.map((charge) => charge.projectId),
    ]),
  );
  for (const id of projects) for (const { name } of contactsOf(pricer, id)) names.add(name);
  return names.size <= MOST ? [...names].join(', ') : '';
}
