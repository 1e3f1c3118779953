import { Fault, type KeyHolder } from '@half-penny/core/model';
import { showDayShort } from '@half-penny/core/time';
import { gistOf, SealedFileFault, type PrivateKeys } from '@half-penny/formats/sealed-files';
import { RelayUnreached, type RelayClient } from '@half-penny/formats/sealed-log';
import { liveQuery } from 'dexie';
import type { Mailbox, MadeFile, Travelled } from './database';
import { wordsOf } from './in-words';
import { knownKeys, privateKeysOf, type KnownKeys } from './keys';
import { mailboxOf, note, stand, wasSent } from './mailbox';
import { newId, registry } from './registry';
import { contentOf, makeSealed, openFile, takeOpened, type Sides, type ToMake } from './sealed-files';
import type { Session } from './session';
import { Bell } from './sharing/bell';
import { clientOf } from './sharing/client';
import { inOneTab } from './sharing/one-tab';

// The mailbox of this workspace is looked into for as long as the application is open: what waits there is taken as if it had been opened
// by hand, and what the other side has not been sent as it is now goes there.

/** So often it is looked by itself, in milliseconds. */
const OFTEN = 30_000;
/** After something went wrong it is tried again so soon, and then ever later. */
const SOONEST = 1_000;
/** Several changes in a row are looked at together. */
const SETTLED = 1_500;
/** What is still being changed is not sent yet. */
const QUIET = 60_000;

/** Looks into this workspace's mailbox: one tab does it for all. @param say told of what came @returns ends it */
export const keepMailbox = (session: Session, say: (text: string) => void): (() => void) =>
  inOneTab(`mailbox ${session.entry.id}`, (signal) => new Rounds(session, say, signal).keep());

/** Keys whose mailbox is looked into. */
interface Box {
  keys: PrivateKeys;
  relay: string;
}

class Rounds {
  readonly #session: Session;
  readonly #say: (text: string) => void;
  readonly #signal: AbortSignal;
  readonly #bell = new Bell();
  /** One of each for as long as it lasts: it knows the relay's clock by then. */
  readonly #clients = new Map<string, RelayClient>();
  #changedAt = 0;
  /** After which change everything that is due went: until the next one there is nothing to look for. */
  #wentFor: string | null = null;

  constructor(session: Session, say: (text: string) => void, signal: AbortSignal) {
    this.#session = session;
    this.#say = say;
    this.#signal = signal;
  }

  async keep(): Promise<void> {
    const { database } = this.#session;
    const { ring } = this.#bell;
    let soon: ReturnType<typeof setTimeout> | undefined;
    const changed = () => {
      this.#changedAt = Date.now();
      clearTimeout(soon);
      soon = setTimeout(ring, SETTLED);
    };
    const watching = [
      whenOther(() => database.journal.count(), changed),
      whenOther(async () => (await registry.mailboxes.toArray()).map((each) => [each.relay, each.asked]), ring),
    ];
    window.addEventListener('online', ring);
    try {
      for (let patience = SOONEST; !this.#signal.aborted;) {
        const known = await knownKeys(this.#session.reader);
        const mailbox = await mailboxOf(known.own?.keys?.signing ?? '');
        const went = !known.own || !mailbox || (await this.#once(known, known.own, mailbox));
        await this.#bell.sleep(went ? OFTEN : patience, this.#signal);
        patience = went ? SOONEST : Math.min(OFTEN, patience * 2);
      }
    } finally {
      window.removeEventListener('online', ring);
      clearTimeout(soon);
      for (const each of watching) each.unsubscribe();
    }
  }

  /** @returns whether it went through; else it stands there why not */
  async #once(known: KnownKeys, own: KeyHolder, mailbox: Mailbox): Promise<boolean> {
    try {
      for (const box of await boxesOf(known, own, mailbox)) await this.#take(mailbox.id, box);
      // What was taken may have said who is met.
      await this.#send(await knownKeys(this.#session.reader), mailbox);
      await stand(mailbox.id, { kind: 'together', at: Date.now() });
      return true;
    } catch (thrown) {
      const since = Date.now();
      const isAway = thrown instanceof RelayUnreached;
      await stand(mailbox.id, isAway ? { kind: 'off line', since } : { kind: 'stopped', since, why: wordsOf(thrown) });
      return false;
    }
  }

  async #take(id: string, { keys, relay }: Box): Promise<void> {
    const client = this.#clientOf(relay, keys);
    for (const letter of await client.letters()) {
      if (this.#signal.aborted) return;
      const blob = new Blob([(await client.letter(letter.id)) as Uint8Array<ArrayBuffer>]);
      const came = await taken(this.#session, blob);
      // Taken out only now: whatever ends this in between leaves it where it is, and nothing doubles.
      await client.removeLetter(letter.id);
      await note(id, came);
      // Nobody is to be called from their work by strangers.
      if (!came.fault || came.file) this.#say(came.said);
    }
  }

  async #send(known: KnownKeys, { id, relay, sent, asked }: Mailbox): Promise<void> {
    const { own, studio, ownerId } = known;
    if (!own?.keys || own.keys.signing !== id) return;
    const isQuiet = Date.now() - this.#changedAt >= QUIET;
    const today = new Date().toDateString();
    const goesFor = JSON.stringify([id, relay, this.#changedAt, isQuiet, asked ?? null, today]);
    if (this.#wentFor === goesFor) return;
    const client = this.#clientOf(relay, await privateKeysOf(own.keys));
    const due =
      ownerId === null
        ? await this.#dueFromStudio(known, isQuiet)
        : studio
          ? await this.#dueFromMember(known, studio)
          : [];
    for (const { about, as, what, reader, name } of due) {
      if (sent[about] === as || this.#signal.aborted) continue;
      const sides: Sides = { own, reader, studio: await this.#studioName() };
      const file = await makeSealed(this.#session, what, sides);
      await client.post(reader.keys!.signing, new Uint8Array(await file.blob.arrayBuffer()));
      await wasSent(id, about, as, `${name} went to its mailbox.`);
    }
    if (!this.#signal.aborted) this.#wentFor = goesFor;
  }

  /** What a member handed in, and no answer of the studio says that it has. */
  async #dueFromMember({ ownerId, files }: KnownKeys, studio: KeyHolder): Promise<Due[]> {
    const { reader } = this.#session;
    if (studio.standing !== 'met' || !studio.keys) return [];
    const answered = new Set(files.flatMap(({ answers }) => answers ?? []));
    const due: Due[] = [];
    for (const sheet of await reader.by('timesheets', 'memberId', [ownerId!])) {
      if (sheet.steps.at(-1)?.kind !== 'handed in') continue;
      const handIns = await reader.by('handIns', 'timesheetId', [sheet.id]);
      const last = handIns.sort((one, other) => one.at - other.at).at(-1);
      if (!last || answered.has(last.id)) continue;
      due.push({
        ...{ about: `timesheet ${sheet.id}`, as: last.id, reader: studio },
        what: { kind: 'timesheet', timesheetId: sheet.id },
        name: `The timesheet of ${showDayShort(sheet.from)} – ${showDayShort(sheet.to)}`,
      });
    }
    return due;
  }

  /** What members do not know yet: their work, once nobody changes it any more, and what became of what they handed in. */
  async #dueFromStudio({ ofMember, own }: KnownKeys, isQuiet: boolean): Promise<Due[]> {
    const mailbox = await mailboxOf(own!.keys!.signing);
    const due: Due[] = [];
    for (const [memberId, holder] of ofMember) {
      if (holder.standing !== 'met' || !holder.keys || memberId === this.#session.memberId) continue;
      const name = (await this.#session.reader.get('members', memberId))?.name ?? '';
      for (const kind of ['job sheet', 'answer'] as const) {
        const about = `${kind} ${memberId}`;
        // Who was met just now waits for the first.
        if (kind === 'job sheet' && !isQuiet && mailbox?.sent[about] !== undefined) continue;
        const what: ToMake = { kind, memberId };
        const content = await contentOf(this.#session, what, { id: newId(), madeAt: Date.now() });
        if (content.kind === 'answer' && content.rows.timesheets.length === 0) continue;
        const as = gistOf(content);
        due.push({
          about,
          as,
          what,
          reader: holder,
          name: `${kind === 'answer' ? 'An answer' : 'A job sheet'} for ${name}`,
        });
      }
    }
    return due;
  }

  async #studioName(): Promise<string> {
    const [workspace] = await this.#session.reader.all('workspace');
    return workspace?.name ?? '';
  }

  #clientOf(relay: string, keys: PrivateKeys): RelayClient {
    const of = `${relay} ${keys.signing}`;
    const client = this.#clients.get(of) ?? clientOf({ relay, keys });
    this.#clients.set(of, client);
    return client;
  }
}

/** Something that the other side has to be sent. */
interface Due {
  about: string;
  /** What it says: another says something else. */
  as: string;
  what: ToMake;
  reader: KeyHolder;
  name: string;
}

/** The workspace's own mailbox, and that of keys by which its member answered another invitation. */
async function boxesOf({ ownerId }: KnownKeys, own: KeyHolder, { relay }: Mailbox): Promise<Box[]> {
  const boxes: Box[] = [{ keys: await privateKeysOf(own.keys), relay }];
  const answered = ownerId === null ? undefined : await registry.invitations.get(ownerId);
  if (answered?.invitation.relay !== undefined) boxes.push({ keys: answered.keys, relay: answered.invitation.relay });
  return boxes;
}

/** Takes a file, and says what came of it. What is no refusal but a fault of this browser is thrown: the file stays where it is. */
async function taken(session: Session, blob: Blob): Promise<Travelled> {
  const at = Date.now();
  try {
    return { at, said: (await takeOpened(session, await openFile(blob))).said, fault: false };
  } catch (thrown) {
    const said = wordsOf(thrown);
    // Whoever knows an address of a mailbox can put anything there.
    if (thrown instanceof SealedFileFault) return { at, said: `Something came and was refused: ${said}`, fault: true };
    if (!(thrown instanceof Fault)) throw thrown;
    const file: MadeFile = { name: 'refused.half-penny.sealed', blob };
    return { at, said, fault: true, file };
  }
}

/** Calls back whenever a query comes to something else. */
function whenOther(query: () => Promise<unknown>, then: () => void): { unsubscribe(): void } {
  let last: string | undefined;
  const look = (value?: unknown) => {
    const now = JSON.stringify(value ?? null);
    if (last !== undefined && last !== now) then();
    last = now;
  };
  return liveQuery(query).subscribe(look, () => then());
}
