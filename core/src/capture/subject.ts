import { withoutSigns } from '../entries/telephone';
import { cleaned, type About, type ActivityKind } from './activity';

/** What an activity was about, told once however often it was seen. */
export interface Subject {
  kind: ActivityKind;
  program: string;
  title: string;
  address: string;
  /** The host of an address, without "www.". */
  site: string;
  file: string;
  /** The folders a file lies in: "/work/quayside/plots". */
  folder: string;
  /** What a mail or message is about, without "Re:". */
  thread: string;
  people: readonly string[];
  /** The keys by which things belong together; the most telling first. */
  keys: readonly string[];
}

/** Folders that hold anything, and tell nothing. */
const COMMON_FOLDERS = /^(?:|home|users|documents|desktop|downloads|tmp|temp|work|projects|shared|dropbox)$/i;

/** What an activity was about, cleaned of what differs between two looks at the same thing. */
export function subjectOf(activity: About): Subject {
  const title = cleaned(activity.title ?? '');
  const address = cleaned(activity.address ?? '');
  const file = cleaned(activity.file ?? '').replaceAll('\\', '/');
  const people = activity.people ? peopleOf(activity.people) : NOBODY;
  const talk = activity.kind === 'mail' || activity.kind === 'message' || activity.kind === 'meeting';
  const subject: { -readonly [Key in keyof Subject]: Subject[Key] } = {
    kind: activity.kind,
    program: cleaned(activity.program ?? ''),
    title,
    address,
    site: address ? siteOf(address) : '',
    file,
    folder: file.slice(0, Math.max(0, file.lastIndexOf('/'))),
    thread: talk ? threadOf(title) : '',
    people,
    keys: NOBODY,
  };
  subject.keys = keysOf(subject);
  return subject;
}

const NOBODY: readonly string[] = [];
function peopleOf(people: readonly string[]): readonly string[] {
  const [first] = people;
  if (first === undefined) return NOBODY;
  if (people.length > 1) return [...new Set(people.map((each) => cleaned(each).toLowerCase()).filter(Boolean))];
  const only = cleaned(first).toLowerCase();
  return only === '' ? NOBODY : [only];
}

/** "https://www.hire-stock.example:8080/list?a" is at hire-stock.example. */
export function siteOf(address: string): string {
  const start = address.startsWith('https://') ? 8 : address.startsWith('http://') ? 7 : 0;
  const end = address.indexOf('/', start);
  const host = address.slice(start, end < 0 ? undefined : end);
  // Most are no more than this; names, ports and other schemes are looked at with more care.
  if (start > 0 && PLAIN_HOST.test(host)) return withoutWww(host);
  return withoutWww(/^(?:[a-z][a-z0-9+.-]*:\/\/)?(?:[^/?#@]*@)?([^/?#:]+)/i.exec(address)?.[1] ?? '');
}
const PLAIN_HOST = /^[a-z0-9.-]+$/i;

function withoutWww(host: string): string {
  const small = host.toLowerCase();
  return small.startsWith('www.') ? small.slice(4) : small;
}

/** "Re: AW: Follow-spot hire" is of the thread "follow-spot hire". */
export function threadOf(title: string): string {
  let rest = title.trim();
  for (let short; (short = rest.replace(/^(?:re|fw|fwd|aw|wg)\s*:\s*/i, '')) !== rest;) rest = short;
  return rest.toLowerCase();
}

/** The last part of a file's path that says something: its own folder, unless that holds anything. */
export function tellingFolder(folder: string): string {
  const last = folder.lastIndexOf('/');
  // One at the top of a disk holds anything as well.
  if (folder.indexOf('/') === last) return '';
  return COMMON_FOLDERS.test(folder.slice(last + 1)) ? '' : folder;
}

function keysOf(subject: Subject): string[] {
  const keys: string[] = [];
  if (subject.file) keys.push(`file ${subject.file.toLowerCase()}`);
  if (subject.thread) keys.push(`thread ${subject.thread}`);
  const folder = tellingFolder(subject.folder);
  if (folder) keys.push(`folder ${folder.toLowerCase()}`);
  for (const person of subject.people) keys.push(`person ${withoutSigns(person)}`);
  if (subject.site) keys.push(`site ${subject.site}`);
  // Nothing else to go by: the title itself.
  if (keys.length === 0) return [`title ${subject.program.toLowerCase()} ${subject.title.toLowerCase()}`];
  // Cut to its length: a list that has grown keeps room for more, and there is one for every thing ever seen.
  return keys.slice();
}

/** The name of a file as a person would say it: "plot-sheet_4.lgp" is "Plot sheet 4". */
export function documentName(file: string): string {
  const name = file.slice(file.lastIndexOf('/') + 1);
  const plain = name
    .replace(/\.[a-z0-9]{1,5}$/i, '')
    .replace(/[-_]+/g, ' ')
    .trim();
  return plain ? plain[0]!.toUpperCase() + plain.slice(1) : name;
}
