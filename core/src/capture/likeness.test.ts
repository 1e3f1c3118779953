import { describe, expect, it } from 'vitest';
import {
  aroundFeature,
  captureDefaults,
  featuresOfSubject,
  formStretches,
  jobKeyOf,
  lessonsOf,
  Likeness,
  Leads,
  markOfProject,
  offerDay,
  outcomeOf,
  placeOn,
  RuleBook,
  subjectOf,
  timeBy,
  heatMap,
  TrailArrays,
  weightedShare,
  type Activity,
  type Feature,
  type Lesson,
  type SiftBook,
  type Placing,
  type Stretch,
} from '.';
import type { Contact } from '../model/records';
import { clientRow, projectRow } from '../testing/studio';

const NINE = Date.parse('2026-11-12T09:00:00Z');
const zone = 'Europe/London';
const PROJECT = '01900000-0000-7000-8000-0000000000a1';
const CLIENT = '01900000-0000-7000-8000-0000000000c1';

const lesson = (job: string, ...features: string[]): Lesson => ({ job, features });
/** So many lessons of two jobs that share a program and a word, and one feature each that tells. */
const lessons = (count: number): Lesson[] =>
  Array.from({ length: count }, (_, index) =>
    index % 2
      ? lesson('rig', 'program plotter', 'word lux', 'folder /work/quayside')
      : lesson('museum', 'program plotter', 'word lux', 'folder /work/fernhill'),
  );

describe('likeness', () => {
  it('goes by what tells jobs apart, and says what that was', () => {
    const [guess] = new Likeness(lessons(20)).guess(['program plotter', 'word lux', 'folder /work/quayside']);
    expect([guess!.job, guess!.reasons]).toEqual(['rig', ['folder /work/quayside']]);
    expect(guess!.confidence).toBeGreaterThan(0.8);
  });

  it('is unsure where nothing tells', () => {
    const guesses = new Likeness(lessons(20)).guess(['program plotter', 'word lux']);
    expect(guesses[0]!.confidence).toBeLessThan(0.6);
    expect(new Likeness().guess(['word lux'])).toEqual([]);
  });

  it('learns at once, and forgets what is undone', () => {
    const before = lessons(20);
    const fresh = ['folder /work/otterbourne', 'word handrail'];
    const learned = [...before, lesson('bridge', ...fresh), lesson('bridge', ...fresh)];
    expect(new Likeness(learned).guess(fresh)[0]!.job).toBe('bridge');
    expect(new Likeness(before).guess(fresh).map((each) => each.job)).not.toContain('bridge');
  });

  it('knows what several jobs share', () => {
    const likeness = new Likeness(lessons(4));
    expect([likeness.isShared('word lux'), likeness.isShared('folder /work/quayside')]).toEqual([true, false]);
  });
});

describe('likeness by the time that things took', () => {
  const placed: Lesson[] = Array.from({ length: 20 }, (_, at) =>
    at % 2
      ? { job: 'novel', features: ['file orchid.txt', ['person ann@press.example', 0.2]] }
      : { job: 'leaflet', features: [['person works@council.example', 1], 'word leaflet'] },
  );

  it('lets no mail of seconds outvote most of an hour in a document that is new', () => {
    const likeness = new Likeness(placed);
    const [glance] = likeness.guess(['file new.txt', ['person works@council.example', 0.13], ['word leaflet', 0.13]]);
    const [mail] = likeness.guess(['person works@council.example', 'word leaflet']);
    expect(mail).toMatchObject({ job: 'leaflet' });
    expect(mail!.confidence).toBeGreaterThan(0.9);
    expect(glance!.confidence).toBeLessThan(0.75);
  });

  it('calls a key shared only where it was placed on several jobs for a good part', () => {
    const stray: Lesson = { job: 'leaflet', features: [['file orchid.txt', 0.1]] };
    expect(new Likeness([...placed, stray]).isShared('file orchid.txt')).toBe(false);
    expect(
      new Likeness([...placed, ...Array<Lesson>(8).fill({ ...stray, features: ['file orchid.txt'] })]).isShared(
        'file orchid.txt',
      ),
    ).toBe(true);
  });

  it('goes by what stands before and after where a thing itself tells nothing, the more the nearer that is', () => {
    const likeness = new Likeness(placed);
    const sure = (...around: Feature[]) =>
      likeness.guess(['file new.txt', ...around]).find(({ job }) => job === 'novel')!.confidence;
    const near = sure(aroundFeature('before', 'novel', 0), aroundFeature('after', 'novel', 60_000));
    const far = sure(aroundFeature('before', 'novel', 60 * 60_000));
    expect(near).toBeGreaterThan(0.75);
    expect(near).toBeGreaterThan(far);
    expect(far).toBeGreaterThan(sure());
  });
});

const window = (from: number, to: number, more: Partial<Activity>): Activity => ({
  kind: 'window',
  from: NINE + from * 60_000,
  to: NINE + to * 60_000,
  ...more,
});
const dayOf = (...activities: Activity[]) => {
  const columns = new TrailArrays();
  activities.forEach((each) => columns.add(each));
  return formStretches(columns, { settings: captureDefaults, zone, rules: new RuleBook([]), placings: [] })[0]!
    .stretches;
};
const dayWith = (likeness: Likeness, ...activities: Activity[]) => {
  const columns = new TrailArrays();
  activities.forEach((each) => columns.add(each));
  const options = { settings: captureDefaults, zone, rules: new RuleBook([]), placings: [], likeness };
  return formStretches(columns, options)[0]!.stretches;
};
const book = {
  workspaceId: 'w',
  clients: [clientRow(CLIENT, 'Quayside Playhouse', { email: 'production@quayside-playhouse.example' })],
  projects: [projectRow(PROJECT, 'Winter season rig', CLIENT)],
  contacts: [] as Contact[],
  members: [],
  studio: { name: 'Saltmere Lighting', email: 'hello@saltmere.example' },
};
const likenessIn = (given: SiftBook, lessons: readonly Lesson[] = []) => new Likeness(lessons, new Leads(given, zone));

describe('one spell of work', () => {
  const minutesOf = (stretches: readonly Stretch[]) => stretches.map(({ seen }) => seen / 60_000);
  const orchid = (from: number, to: number) =>
    window(from, to, { program: 'Writing pad', file: '/texts/orchid/chapter-3.txt' });
  const wordBook = (from: number, to: number) =>
    window(from, to, { program: 'Browser', address: 'https://word-book.example/dawn', title: 'dawn' });
  const bridge = (from: number, to: number) =>
    window(from, to, { program: 'Writing pad', file: '/texts/bridge/leaflet.txt' });

  it('is one stretch, with what was looked up in it', () => {
    const day = dayOf(
      orchid(0, 9),
      wordBook(9, 11),
      orchid(11, 20),
      wordBook(20, 23),
      orchid(23, 30),
      bridge(30, 50),
      wordBook(50, 52),
    );
    expect(minutesOf(day)).toEqual([30, 22]);
  });

  it('is one stretch although other programs and unknown things come in, once it is known of what job they are', () => {
    const lesson = (job: string, ...features: Feature[]): Lesson => ({ job, features });
    const likeness = new Likeness(
      Array.from({ length: 20 }, (_, at) =>
        at % 2
          ? lesson('orchid', 'folder /texts/orchid', 'person ann@press.example')
          : lesson('bridge', 'folder /texts/bridge', 'person works@council.example'),
      ),
    );
    const call = window(30, 38, { kind: 'call', program: 'Telephone', people: ['ann@press.example'] });
    const activities = [
      orchid(0, 30),
      call,
      window(38, 60, { program: 'Writing pad', file: '/texts/orchid/notes.txt' }),
      bridge(60, 90),
    ];
    expect(minutesOf(dayOf(...activities))).toEqual([52, 8, 30]);
    expect(minutesOf(dayWith(likeness, ...activities))).toEqual([60, 30]);
  });

  it('is not joined over a long break, nor with what a person or a rule placed', () => {
    const likeness = new Likeness(
      Array.from({ length: 20 }, (): Lesson => ({ job: 'orchid', features: ['folder /texts/orchid'] })),
    );
    expect(minutesOf(dayWith(likeness, orchid(0, 30), orchid(60, 90)))).toEqual([30, 30]);
  });
});

describe('what is offered of a day', () => {
  const activity = window(0, 30, { kind: 'mail', title: 'Follow-spots', people: ['maud@quayside-playhouse.example'] });

  it('is a job that its people name, as long as nothing was learned', () => {
    const [row] = offerDay(dayOf(activity), likenessIn(book), zone);
    expect(row!.offer).toMatchObject({
      outcome: { act: 'place', projectId: PROJECT },
      confidence: null,
      reasons: ['maud@quayside-playhouse.example is of Quayside Playhouse'],
    });
    expect(row!.note).toBe('E-mail with Maud');
  });

  it('is what was placed alike before, with its reasons in words; not on a job that is finished', () => {
    const [plain] = offerDay(dayOf(activity), likenessIn(book), zone);
    const outcome = placeOn({ workspaceId: 'w', projectId: PROJECT, taskId: null });
    const placings = Array.from({ length: 6 }, (_, index): Placing => ({
      id: `p${index}`,
      day: '2026-11-11',
      spans: [{ start: 1, end: 2 }],
      outcome: index < 5 ? outcome : { act: 'private' },
      note: '',
      billableSeconds: null,
      features: index < 5 ? plain!.features : ['word trains'],
      at: index,
    }));
    const lessons = lessonsOf(placings);
    const [row] = offerDay(dayOf(activity), likenessIn(book, lessons), zone);
    expect(row!.offer!.outcome).toEqual(outcome);
    expect(row!.offer!.confidence).toBeGreaterThan(0.5);
    expect(row!.offer!.reasons.join()).toMatch(/the word “follow”|maud@/);
    const finished = { ...book, projects: [projectRow(PROJECT, 'Winter season rig', CLIENT, { finished: true })] };
    expect(offerDay(dayOf(activity), likenessIn(finished, lessons), zone)[0]!.offer?.outcome.act).not.toBe('place');
  });

  it('is the one project that a contact answers for, until somebody placed time with them elsewhere', () => {
    const foyer = projectRow('foyer', 'Foyer refresh', CLIENT);
    const maud: Contact = {
      id: 'maud',
      clientId: CLIENT,
      name: 'Maud Ferrier',
      role: '',
      email: '',
      telephone: '01632 960 141',
      note: '',
      projectIds: ['foyer'],
    };
    const known = { ...book, projects: [...book.projects, foyer], contacts: [maud] };
    const call = dayOf(window(0, 30, { kind: 'call', title: '', people: ['+44 1632 960141'] }));
    const offerOf = (lessons: Lesson[], given = known) => offerDay(call, likenessIn(given, lessons), zone)[0]!.offer;
    expect(offerOf([])).toMatchObject({
      outcome: { projectId: 'foyer' },
      reasons: ['Maud Ferrier answers for Foyer refresh'],
    });
    const lesson = (features: string[]) => ({
      job: jobKeyOf(placeOn({ workspaceId: 'w', projectId: PROJECT, taskId: null })),
      features,
    });
    // What was learned of others does not outvote a contact; what was learned of this one does.
    const others = [lesson(['hour 3']), lesson(['hour 3'])];
    expect(offerOf(others)!.outcome).toMatchObject({ projectId: 'foyer' });
    const own = Array.from({ length: 6 }, () =>
      lesson([markOfProject('w', 'foyer'), 'person +441632960141', 'hour 3']),
    );
    expect(offerOf(own)!.outcome).toMatchObject({ projectId: PROJECT });
    const finished = { ...known, projects: [book.projects[0]!, { ...foyer, finished: true }] };
    expect(offerOf([], finished)!.outcome).toMatchObject({ projectId: PROJECT });
    const both = { ...known, contacts: [{ ...maud, projectIds: ['foyer', PROJECT] }] };
    expect(offerOf([], both)!.reasons).toEqual(['Maud Ferrier is of Quayside Playhouse']);
  });

  it('goes by what names a job, the less the more often it was another', () => {
    const gallery = projectRow('gallery', 'Gallery three', CLIENT);
    const known = { ...book, projects: [...book.projects, gallery] };
    const titled = dayOf(window(0, 30, { title: 'Gallery three: sections' }));
    const offerOf = (lessons: Lesson[]) => offerDay(titled, likenessIn(known, lessons), zone)[0]!.offer!;
    const elsewhere = (features: string[]): Lesson => ({
      job: jobKeyOf(placeOn({ workspaceId: 'w', projectId: PROJECT, taskId: null })),
      features,
    });
    // Never placed on, and yet likelier than where everything else went.
    const offer = offerOf(Array.from({ length: 4 }, () => elsewhere(['program plotting desk', 'word sections'])));
    expect(offer).toMatchObject({
      outcome: { projectId: 'gallery' },
      reasons: [expect.stringContaining('Gallery three')],
    });
    expect(offer.confidence).toBeGreaterThan(0.25);
    const misled = elsewhere([markOfProject('w', 'gallery'), 'word gallery', 'word three', 'word sections']);
    expect(offerOf(Array.from({ length: 12 }, () => misled)).outcome).toMatchObject({ projectId: PROJECT });
  });

  it('joins on the first day what a client’s people and name hold together', () => {
    const activities = [
      window(0, 15, { title: 'Quayside Playhouse: offer', program: 'Writing pad' }),
      window(15, 25, { kind: 'mail', title: 'Ladders', people: ['maud@quayside-playhouse.example'] }),
    ];
    expect(dayWith(new Likeness(), ...activities)).toHaveLength(2);
    expect(dayWith(likenessIn(book), ...activities)).toHaveLength(1);
  });

  it('hears nothing in the studio’s own name and addresses', () => {
    const lesson: Lesson = { job: 'rig', features: ['word saltmere', 'person hello@saltmere.example'] };
    const own = window(0, 30, { kind: 'mail', title: 'Saltmere', people: ['hello@saltmere.example'] });
    const offerOf = (likeness: Likeness) => likeness.guess(featuresOfSubject(subjectOf(own)))[0]!.reasons;
    const others: Lesson = { job: 'quay', features: ['word quay'] };
    expect(offerOf(new Likeness([lesson, others]))).not.toEqual([]);
    expect(offerOf(likenessIn(book, [lesson, others]))).toEqual([]);
    expect(likenessIn(book).isShared('person hello@saltmere.example')).toBe(true);
  });

  it('is open again where it was given from another workspace with no job', () => {
    const placing: Placing = {
      id: 'p',
      day: '2026-11-12',
      spans: [{ start: NINE, end: NINE + 1_800_000 }],
      outcome: placeOn({ workspaceId: 'w', projectId: null, taskId: null }),
      note: '',
      billableSeconds: null,
      features: [],
      at: 1,
    };
    const columns = new TrailArrays();
    columns.add(activity);
    const options = { settings: captureDefaults, zone, rules: new RuleBook([]), placings: [placing] };
    const { stretches } = formStretches(columns, options)[0]!;
    expect(offerDay(stretches, likenessIn(book), zone)[0]!.offer?.outcome).toMatchObject({ projectId: PROJECT });
    const elsewhere = offerDay(stretches, likenessIn({ ...book, workspaceId: 'other' }), zone)[0]!;
    expect([elsewhere.offer, elsewhere.stretch.outcome?.act]).toEqual([null, 'place']);
    // What was handed over tells of no job, and is never offered as one.
    expect(lessonsOf([{ ...placing, features: ['word plot'] }])).toEqual([]);
  });

  it('keeps jobs by a text that is read back', () => {
    const outcome = placeOn({ workspaceId: 'w', projectId: PROJECT, taskId: null, serviceId: 's' });
    expect(outcomeOf(jobKeyOf(outcome))).toEqual(outcome);
    expect(outcomeOf('private')).toEqual({ act: 'private' });
    expect(outcomeOf('never record')).toBeNull();
  });
});

describe('looking back', () => {
  const stretches = dayOf(
    window(0, 30, { program: 'Plotting desk', file: '/work/quayside/plot.lgp' }),
    window(30, 90, { program: 'Browser', title: 'Hire list', address: 'https://hire-stock.example' }),
  );

  it('shares time out by what had it', () => {
    expect(timeBy(stretches, 'program', () => '')).toEqual([
      { key: 'Browser', seen: 3_600_000, percent: (60 / 90) * 100 },
      { key: 'Plotting desk', seen: 1_800_000, percent: (30 / 90) * 100 },
    ]);
    expect(timeBy(stretches, 'site', () => '').map((each) => each.key)).toEqual(['hire-stock.example']);
  });

  it('puts it under weekday and hour', () => {
    const map = heatMap(stretches, zone);
    expect([map[3]![9], map[3]![10], map.flat().reduce((a, b) => a + b, 0)]).toEqual([3_600_000, 1_800_000, 5_400_000]);
  });

  it('weighs time by the studio’s own groups', () => {
    const groups = [
      { id: 'a', name: 'Drawing', percent: 100, projectIds: ['plotting desk'] },
      { id: 'b', name: 'Reading', percent: 25, projectIds: ['browser'] },
    ];
    const of = weightedShare(stretches, groups, (stretch) => stretch.evidence[0]!.subject.program.toLowerCase());
    // 30 min at 100 % and 60 min at 25 % of 90 min: 50 %.
    expect(of.percent).toBe(50);
    expect(weightedShare(stretches, [], () => null).percent).toBeNull();
  });
});
