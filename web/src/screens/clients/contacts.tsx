import type { Pricer } from '@half-penny/core/billing';
import type { Client, Contact } from '@half-penny/core/model';
import { readContacts } from '@half-penny/formats/contacts';
import { wordsOf } from '../../data/in-words';
import { useState } from 'react';
import { useChanges } from '../../data/session';
import { AddLine } from '../../parts/add-line';
import { FileButton } from '../../parts/file-button';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { Ticks } from '../../parts/ticks';

/** A client's people; a file of contact cards can be imported. */
export function Contacts({ pricer, client }: { pricer: Pricer; client: Client }) {
  const { run, attempt } = useChanges();
  const [fault, setFault] = useState<string>();
  const rows = pricer.book.contacts.filter((contact) => contact.clientId === client.id);
  const projects = pricer.book.projects
    .filter((project) => project.clientId === client.id && !project.finished)
    .map(({ id }) => ({ id, name: pricer.tree.pathOf(id) }));
  const take = async (file: File) => {
    try {
      const contacts = readContacts(await file.text());
      await run('contact.take', { clientId: client.id, contacts });
      setFault(undefined);
    } catch (thrown) {
      setFault(`${file.name}: ${wordsOf(thrown)} Nothing was imported.`);
    }
  };
  const field = (key: 'name' | 'role' | 'email' | 'telephone', head: string, width: string): Column<Contact> => ({
    key,
    head,
    width,
    wideOnly: key === 'role' || key === 'telephone',
    cell: (row) => <span className={`written clamp-2 ${key === 'name' ? 'font-semibold' : ''}`}>{row[key]}</span>,
    edit: { text: (row) => row[key], save: (row, text) => run('contact.edit', { id: row.id, [key]: text }) },
  });
  return (
    <Section
      title="Contacts"
      actions={<FileButton label="Contact cards (.vcf)" accept=".vcf,text/vcard" onFile={(file) => void take(file)} />}
    >
      {fault && (
        <p role="alert" className="mb-2 text-fault">
          {fault}
        </p>
      )}
      <Ledger
        label="Contacts"
        rows={rows.toSorted((a, b) => a.name.localeCompare(b.name))}
        rowId={(row) => row.id}
        rowName={(row) => row.name}
        columns={[
          field('name', 'Name', 'minmax(0,1fr)'),
          field('role', 'Position', 'minmax(0,1fr)'),
          field('email', 'E-mail', 'minmax(0,1.2fr)'),
          field('telephone', 'Telephone', '124px'),
          {
            key: 'projects',
            head: 'Answers for',
            width: 'minmax(0,1fr)',
            cell: (row) => (
              <Ticks
                label={`Projects that ${row.name} answers for`}
                options={projects}
                chosen={row.projectIds ?? []}
                save={(projectIds) => attempt('contact.edit', { id: row.id, projectIds })}
                none="no project"
                empty="This client has no projects yet."
              />
            ),
          },
        ]}
        onDelete={(row) => void attempt('contact.remove', { id: row.id })}
        empty="Nobody yet. Add them below, or import contact cards from a file."
      />
      <AddLine
        label="Add a contact"
        button="Add the contact"
        fields={[
          { key: 'name', label: 'New contact', className: 'min-w-40 flex-1' },
          { key: 'role', label: 'Position', className: 'w-40' },
          { key: 'email', label: 'E-mail', inputMode: 'email', className: 'w-52' },
          { key: 'telephone', label: 'Telephone', className: 'w-36' },
        ]}
        add={(typed) => run('contact.add', { clientId: client.id, name: '', ...typed })}
      />
    </Section>
  );
}
