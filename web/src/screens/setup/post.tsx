import type { Pricer } from '@half-penny/core/billing';
import { Fault, needText, readAll } from '@half-penny/core/model';
import { useState } from 'react';
import { savePost, simulatePost, testPost, usePost, type PostSettings } from '../../data/post';
import { Button } from '../../parts/button';
import { Connect } from '../../parts/connect';
import { TextField } from '../../parts/field';
import { Section } from '../../parts/page';
import { SelectField } from '../../parts/select';
import { useSubmit } from '../../parts/use-submit';
import { ReminderDays } from './reminder-days';
import { LetterTexts } from './letter-texts';
import { PaperWords } from './paper-words';

const SECURE = [
  ['tls', 'TLS from the start, mostly port 465'],
  ['starttls', 'STARTTLS, mostly port 587'],
  ['none', 'not at all'],
] as const;

/** How letters leave, and what they say. */
export function Post({ pricer }: { pricer: Pricer }) {
  const { kept, fault, read, setKept } = usePost();
  return (
    <>
      <Section title="Mail server">
        <div className="max-w-3xl border-t border-ink px-2 pt-3">
          <p className="mb-4 max-w-2xl text-soft">
            Letters are sent by the local server through a mail server of yours (SMTP). The password stays in the folder
            of the local server, readable by you alone; it is in no backup, no export and no history.
          </p>
          <Connect onConnected={read} />
          {fault && !kept && (
            <p role="alert" className="text-attention">
              {fault}
            </p>
          )}
          {kept && <MailServer key={JSON.stringify(kept)} {...{ pricer, kept }} onKept={setKept} />}
        </div>
      </Section>
      <ReminderDays pricer={pricer} />
      <LetterTexts pricer={pricer} />
      <PaperWords pricer={pricer} />
    </>
  );
}

interface MailServerProps {
  pricer: Pricer;
  kept: { settings: PostSettings | null; simulated: boolean };
  onKept: (kept: { settings: PostSettings | null; simulated: boolean }) => void;
}

function MailServer({ pricer, kept, onKept }: MailServerProps) {
  const { workspace } = pricer.book;
  const { settings, simulated } = kept;
  const [typed, setTyped] = useState({
    host: settings?.host ?? '',
    port: String(settings?.port ?? 465),
    user: settings?.user ?? '',
    password: '',
    from: settings?.from ?? workspace.email,
    fromName: settings?.fromName ?? workspace.name,
  });
  const [secure, setSecure] = useState<PostSettings['secure']>(settings?.secure ?? 'tls');
  const { fault, faults, submit } = useSubmit(async () => {
    const read = readAll({
      host: () => needText(typed.host, 'Say the name of the mail server.'),
      port: () => readPort(typed.port),
      from: () => needText(typed.from, 'Say the address that letters come from.'),
    });
    const { user, password, fromName } = typed;
    onKept(await savePost({ ...read, secure, user: user.trim(), fromName, ...(password && { password }) }));
  }, ['host', 'port', 'from', 'user', 'password', 'fromName']);
  const field = (name: keyof typeof typed, label: string, more: { hint?: string; type?: string } = {}) => (
    <TextField
      label={label}
      {...more}
      value={typed[name]}
      fault={faults[name]}
      autoComplete="off"
      onChange={(event) => setTyped((now) => ({ ...now, [name]: event.target.value }))}
    />
  );
  return (
    <>
      {simulated && (
        <p className="mb-4 border-l-[3px] border-time bg-time-ground px-3 py-2">
          Letters go to a simulated mail server on this machine, and nowhere else.{' '}
          <a href="/inbox" target="_blank" rel="noreferrer" className="text-time underline underline-offset-2">
            See what arrived
          </a>
        </p>
      )}
      <form onSubmit={submit} className="grid gap-3 md:grid-cols-3">
        {field('host', 'Mail server', { hint: 'smtp.your-provider.example' })}
        {field('port', 'Port')}
        <SelectField
          label="Made safe by"
          value={secure}
          options={SECURE}
          onPick={(picked) => setSecure(picked as PostSettings['secure'])}
        />
        {field('user', 'User name')}
        {field('password', 'Password', {
          type: 'password',
          hint: settings?.hasPassword ? 'One is kept; type to change it.' : 'None is kept yet.',
        })}
        <span />
        {field('from', 'Letters come from')}
        {field('fromName', 'With the name')}
        <div className="flex items-end gap-2 pb-1">
          <Button type="submit" kind="main">
            Save
          </Button>
          {!simulated && (
            <Button
              onClick={() =>
                void simulatePost(typed.from.trim() || 'studio@saltmere-lighting.example', typed.fromName).then(onKept)
              }
            >
              Try without one
            </Button>
          )}
        </div>
        {fault && (
          <p role="alert" className="text-fault md:col-span-3">
            {fault}
          </p>
        )}
      </form>
      {settings && <TestMail to={settings.from} />}
    </>
  );
}

/** @throws Fault for what is no port */
function readPort(text: string): number {
  const port = Number(text.trim());
  if (!Number.isInteger(port) || port < 1 || port > 65_535)
    throw new Fault('out-of-range', 'A port is a whole number from 1 to 65535.');
  return port;
}

/** One letter to oneself shows whether the settings are right. */
function TestMail({ to: from }: { to: string }) {
  const [to, setTo] = useState(from);
  const [said, setSaid] = useState('');
  const { fault, submit } = useSubmit(async () => {
    setSaid('');
    await testPost(to.trim());
    setSaid(`It was taken for ${to.trim()}.`);
  });
  return (
    <form onSubmit={submit} className="mt-5 flex flex-wrap items-end gap-3 border-t border-rule pt-4">
      <TextField
        label="A test letter to"
        className="w-72"
        value={to}
        fault={fault}
        onChange={(event) => setTo(event.target.value)}
      />
      <Button type="submit">Send a test</Button>
      <span role="status" className="text-soft">
        {said}
      </span>
    </form>
  );
}
