import { whyUnsound, type Activity } from '@half-penny/core/capture';
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
    } catch {
      if (read.faults.length < MOST_FAULTS)
        read.faults.push({ at: number, message: `Mail ${number} cannot be read: its head is not that of an e-mail.` });
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
  let begin = afterLine(plain, 0);
  while (begin < plain.length) {
    const next = plain.startsWith('From ', begin) ? begin - 1 : plain.indexOf('\nFrom ', begin);
    const end = next < 0 ? plain.length : next;
    // Only as far as the next one begins: every character is looked at once, whatever the file holds.
    if (end > begin) yield headOf(plain.slice(begin, Math.min(end, begin + LONGEST_HEAD)));
    if (next < 0) return;
    begin = afterLine(plain, next + 1);
  }
}

/** Where the line after the one that a place stands in begins. */
function afterLine(text: string, at: number): number {
  const end = text.indexOf('\n', at);
  return end < 0 ? text.length : end + 1;
}

function headOf(mail: string): string {
  const ends = [mail.indexOf('\n\n'), mail.indexOf('\n\r\n')].filter((end) => end >= 0);
  return `${mail.slice(0, Math.min(LONGEST_HEAD, ...ends))}\r\n\r\n`;
}

async function activityOf(head: string, mine: ReadonlySet<string>): Promise<Activity | null> {
  const { date, subject, from, to, cc } = await PostalMime.parse(head);
  const at = date === undefined ? NaN : Date.parse(date);
  if (!Number.isFinite(at)) return null;
  const addresses = [from, ...(to ?? []), ...(cc ?? [])].flatMap((each) =>
    each === undefined ? [] : each.group ? each.group.map((member) => member.address) : [each.address],
  );
  const people = [
    ...new Set(addresses.map((each) => each?.toLowerCase() ?? '').filter((each) => each && !mine.has(each))),
  ];
  const mail: Activity = {
    kind: 'mail',
    from: at,
    to: at,
    ...(subject ? { title: subject } : {}),
    ...(people.length > 0 ? { people: people.slice(0, 200) } : {}),
  };
  return whyUnsound(mail) === null ? mail : null;
}
