import { MemoryExecutor } from '@half-penny/core/commands';
import { countryOf } from '@half-penny/core/countries';
import { MemoryStore } from '@half-penny/core/engine';
import { faultsIn, idSource } from '@half-penny/core/model';
import { describe, expect, it } from 'vitest';
import { answersAt, fieldOf, FIRST_PROJECT, inputOf, type Answers } from './answers';

const DAY = '2026-11-12';
/** Longer than any text may be. */
const LONG = 'x'.repeat(200_001);
const NOW = Date.parse(`${DAY}T10:00:00Z`);

const answers = (code: string, more: Partial<Answers> = {}): Answers => ({
  member: 'Imogen Vale',
  studio: '',
  country: code,
  hourly: '',
  client: '',
  project: FIRST_PROJECT,
  zone: 'Europe/London',
  ...answersAt(countryOf(code)),
  ...more,
});

async function start(given: Answers): Promise<MemoryStore> {
  const store = new MemoryStore();
  const newId = idSource(
    () => NOW,
    (bytes) => {
      crypto.getRandomValues(bytes as Uint8Array<ArrayBuffer>);
      return bytes;
    },
  );
  const executor = new MemoryExecutor(store, () => ({ now: NOW, memberId: null, newId, device: newId() }));
  await executor.run('workspace.create', inputOf(given, countryOf(given.country), DAY));
  return store;
}

/** The fields that are marked where starting is refused. */
const marked = async (given: Answers): Promise<string[]> =>
  start(given).then(
    () => [],
    (thrown: unknown) => faultsIn(thrown).map(({ path }) => fieldOf(path, given)),
  );

describe('an own studio', () => {
  it('begins with who, where, a rate, a client and its project', async () => {
    const store = await start(answers('IE', { hourly: '85.50', client: 'Quayside Playhouse', project: 'Winter rig' }));
    const [workspace] = store.rows('workspace');
    expect(workspace).toMatchObject({
      name: 'Imogen Vale',
      currency: 'EUR',
      paper: 'A4',
      termsDays: 30,
      datesIn: 'en-IE',
    });
    const [client] = store.rows('clients');
    expect(store.rows('taxes').find((tax) => tax.id === client!.taxId)).toMatchObject({ name: 'VAT', place: 'IE' });
    expect(store.rows('projects')).toMatchObject([{ clientId: client!.id, name: 'Winter rig', kind: 'hourly' }]);
    expect(store.rows('rateLines')).toMatchObject([
      { price: '85.5', currency: 'EUR', projectId: null, clientId: null },
    ]);
    expect(store.rows('members')).toMatchObject([{ name: 'Imogen Vale', owesFrom: DAY }]);
  });

  it('begins without rate, client and taxes where nothing is said of them', async () => {
    const store = await start(answers('GB', { tax: '' }));
    for (const table of ['rateLines', 'clients', 'projects', 'taxes'] as const) expect(store.rows(table)).toEqual([]);
  });

  it('has the tax first that it charges', async () => {
    const store = await start(answers('CA', { tax: 'HST Ontario', client: 'Fernhill Museum' }));
    const taxId = store.rows('clients')[0]!.taxId;
    expect(store.rows('taxes')).toHaveLength(countryOf('CA')!.taxes.length);
    expect(store.rows('taxes').find((tax) => tax.id === taxId)!.name).toBe('HST Ontario');
  });

  it('reads a rate as the country writes figures', async () => {
    const store = await start(answers('DE', { hourly: '1.085,50' }));
    expect(store.rows('rateLines')[0]!.price).toBe('1085.5');
  });

  it('marks the field that is wrong', async () => {
    expect(await marked(answers('GB', { member: ' ' }))).toEqual(['member', 'member']);
    expect(await marked(answers('GB', { studio: LONG }))).toEqual(['studio']);
    expect(await marked(answers('GB', { hourly: 'a lot' }))).toEqual(['hourly']);
    expect(await marked(answers('GB', { hourly: '-5' }))).toEqual(['hourly']);
    expect(await marked(answers('GB', { termsDays: 'soon' }))).toEqual(['termsDays']);
    expect(await marked(answers('GB', { client: LONG }))).toEqual(['client']);
    expect(await marked(answers('GB', { client: 'Quayside', project: LONG }))).toEqual(['project']);
  });
});
