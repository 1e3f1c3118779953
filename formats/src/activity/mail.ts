import type { Activity } from '@half-penny/core/capture';
import PostalMime from 'postal-mime';

export interface MailRead {
  activities: Activity[];
  faults: { message: string; at: number }[];
}

const MOST_FAULTS = 100;
/** Heads are short; a longer one is no mail. */
const LONGEST_HEAD = 200_000;

/**
 * Reads an e-mail (RFC 5322) or a mailbox (mbox, RFC 4155): when each was written, from whom and to whom, and what about. Bodies are
 * neither read nor kept.
 *
 * @param own the person's own addresses, which tell nothing
 */
export async function readMail(text: string, own: readonly string[] = []): Promise<MailRead> {
  const read: MailRead = { activities: [], faults: [] };
  const mine = new Set(own.map((each) => each.trim().toLowerCase()).filter(Boolean));
  let number = 0;
  for (const head of headsOf(text)) {
    number++;
    try {
      const activity = await activityOf(head, mine);
      if (activity) read.activities.push(activity);
      else if (read.faults.length < MOST_FAULTS)
        read.faults.push({ at: number, message: `Mail ${number} has no date that can be read.` });
    } catch (thrown) {
      if (read.faults.length < MOST_FAULTS)
        read.faults.push({ at: number, message: `Mail ${number} cannot be read: ${(thrown as Error).message}` });
    }
  }
  if (number === 0) read.faults.push({ at: 0, message: 'This is neither an e-mail nor a mailbox.' });
  return read;
}

/** The heads of the e-mails in a file, without their bodies. */
function* headsOf(text: string): Generator<string> {
  const plain = text.replace(/^\ufeff/, '');
  if (!plain.startsWith('From ')) {
    if (/^[!-9;-~]+:/.test(plain)) yield headOf(plain);
    return;
  }
  // In a mailbox each e-mail begins with a line "From …"; in bodies such lines are written ">From".
  const begins = /(?:^|\r?\n)From [^\r\n]*\r?\n/g;
  while (begins.exec(plain)) yield headOf(plain.slice(begins.lastIndex, begins.lastIndex + LONGEST_HEAD));
}

function headOf(mail: string): string {
  const end = /\r?\n\r?\n/.exec(mail);
  return `${end ? mail.slice(0, end.index) : mail.slice(0, LONGEST_HEAD)}\r\n\r\n`;
}

async function activityOf(head: string, mine: ReadonlySet<string>): Promise<Activity | null> {
  const { date, subject, from, to, cc } = await PostalMime.parse(head);
  const at = date === undefined ? NaN : Date.parse(date);
  if (!Number.isFinite(at) || at < Date.UTC(2000, 0)) return null;
  const addresses = [from, ...(to ?? []), ...(cc ?? [])].flatMap((each) =>
    each === undefined ? [] : each.group ? each.group.map((member) => member.address) : [each.address],
  );
  const people = [
    ...new Set(addresses.map((each) => each?.toLowerCase() ?? '').filter((each) => each && !mine.has(each))),
  ];
  return {
    kind: 'mail',
    from: at,
    to: at,
    ...(subject ? { title: subject } : {}),
    ...(people.length > 0 ? { people: people.slice(0, 200) } : {}),
  };
}
