import { whyUnsound, type Activity } from '@half-penny/core/capture';
import { Fault } from '@half-penny/core/model';
import { parseXml } from '../xml';
import type { CallsRead } from './calls';

// Call logs and messages as telephones give them in XML: a `call` or `sms` element for each, with the columns of Android's providers as
// attributes (CallLog.Calls: number, date in milliseconds since 1970, duration in seconds, type; Telephony.Sms: address, date), and the name
// as contact_name. What messages say is not read.

/** CallLog.Calls.TYPE: missed, rejected, blocked. */
const UNTAKEN = new Set(['3', '5', '6']);
const MOST_FAULTS = 100;

type Attributes = Readonly<Record<string, string | undefined>>;

/**
 * Reads the calls and messages of a telephone.
 *
 * @returns activities; what could not be read is named by its place, and calls that nobody took are counted
 * @throws Fault where it is no XML, or holds neither calls nor messages
 */
export function readPhoneXml(text: string): CallsRead {
  const parsed = parseXml(text, 'The file') as Readonly<Record<'calls' | 'smses', unknown>>;
  const listOf = (root: unknown, name: string): Attributes[] => {
    const found = typeof root === 'object' && root !== null ? (root as Record<string, unknown>)[name] : undefined;
    // One alone is no list.
    return [found ?? []].flat() as Attributes[];
  };
  const calls = listOf(parsed.calls, 'call');
  const messages = [...listOf(parsed.smses, 'sms'), ...listOf(parsed.smses, 'mms')];
  if (parsed.calls === undefined && parsed.smses === undefined)
    throw new Fault('other-file', 'It holds neither calls nor messages of a telephone.', 'file');
  const read: CallsRead = { activities: [], faults: [], missed: 0 };
  const take = (what: string, index: number, activity: Activity) => {
    const why = whyUnsound(activity);
    if (why === null) read.activities.push(activity);
    else if (read.faults.length < MOST_FAULTS)
      read.faults.push({ row: index + 1, message: `${what} ${index + 1}: ${why}` });
  };
  calls.forEach((each, index) => {
    const seconds = Number(each['@duration'] ?? NaN);
    if (UNTAKEN.has(each['@type'] ?? '') || seconds === 0) return void read.missed++;
    const from = Number(each['@date'] ?? NaN);
    take('Call', index, {
      kind: 'call',
      from,
      to: from + seconds * 1000,
      program: 'Telephone',
      ...whoOf(each, each['@number']),
    });
  });
  messages.forEach((each, index) => {
    const at = Number(each['@date'] ?? NaN);
    take('Message', index, {
      kind: 'message',
      from: at,
      to: at,
      program: 'Messages',
      ...whoOf(each, each['@address']),
    });
  });
  return read;
}

/** The number says who it was; the name only where there is no number. */
function whoOf({ '@contact_name': name }: Attributes, number: string | undefined): Pick<Activity, 'people'> {
  const known = [number, name].map((each) => each?.trim() ?? '').find((each) => each !== '' && each !== '(Unknown)');
  return known ? { people: [known] } : {};
}
