import { addDays } from '@half-penny/core/time';
import {
  projectDefaults,
  rateDefaults,
  type Entry,
  type Member,
  type Project,
  type RateLine,
} from '@half-penny/core/model';
import { Pricer } from '@half-penny/core/billing';
import { bookOf, clientRow } from '@half-penny/core/testing';
import { count, median, report } from './measure';

const ENTRIES = count(1_000_000, 20_000);
const LINES = 5000;
const CLIENTS = 200;
const PROJECTS = 2000;
const MEMBERS = 20;
const SERVICES = 10;
const DAYS = 1500;
/** Projects that a member works on in one month. */
const AT_ONCE = 6;
const RUNS = count(5, 1);

type Asked = Pick<Entry, 'projectId' | 'taskId' | 'memberId' | 'serviceId' | 'day' | 'rate'>;

/** Numbers that look random and are the same on every run. */
function numbers(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (state * 1_664_525 + 1_013_904_223) % 4_294_967_296;
    return Math.floor((state / 4_294_967_296) * below);
  };
}

/** The price of 1,000,000 entries by 5,000 rate lines, against looking each entry's project up in a bare table. */
export async function benchRates(): Promise<void> {
  const any = numbers(1971);
  const ids = (name: string, many: number) => Array.from({ length: many }, (_, index) => `${name} ${index}`);
  const [clients, projects, members, services] = [
    ids('client', CLIENTS),
    ids('project', PROJECTS),
    ids('member', MEMBERS),
    ids('service', SERVICES),
  ];
  const pick = <T>(list: readonly T[]): T => list[any(list.length)]!;
  const dayAt = (index: number) => addDays('2022-01-01', index);
  const lines = Array.from({ length: LINES }, (_, index): RateLine => {
    const place = any(3);
    const who = any(3);
    return {
      ...rateDefaults,
      id: `line ${index}`,
      from: index === 0 ? '2000-01-01' : dayAt(any(DAYS)),
      price: String(40 + any(80)),
      currency: 'GBP',
      ...(index === 0 || place === 0 ? {} : place === 1 ? { clientId: pick(clients) } : { projectId: pick(projects) }),
      ...(who === 1 ? { memberId: pick(members) } : who === 2 ? { role: `role ${any(4)}` } : {}),
      serviceId: any(2) === 0 ? null : pick(services),
    };
  });
  lines[0] = { ...lines[0]!, memberId: null, role: null, serviceId: null };
  const pricer = new Pricer(
    bookOf({
      clients: clients.map((id) => clientRow(id, id)),
      // Every tenth project is a part of the one before it.
      projects: projects.map((id, index): Project => {
        const clientId = clients[Math.floor(index / 10) % CLIENTS]!;
        const parentId = index % 10 === 9 ? projects[index - 1]! : null;
        return { ...projectDefaults, id, name: id, clientId, parentId, kind: 'hourly' };
      }),
      members: members.map((id, index) => ({ id, name: id, role: `role ${index % 4}` }) as Member),
      rateLines: lines,
    }),
  );
  const days = Array.from({ length: DAYS }, (_, index) => dayAt(index));
  // In the order of their days, as they are read: a member works on a few projects in a month, then on others.
  const entries = Array.from({ length: ENTRIES }, (_, index): Asked => {
    const at = Math.floor((index / ENTRIES) * DAYS);
    const member = any(MEMBERS);
    const month = Math.floor(at / 30);
    return {
      projectId: projects[(member * 97 + month * 41 + any(AT_ONCE) * 13) % PROJECTS]!,
      taskId: null,
      memberId: members[member]!,
      serviceId: any(4) === 0 ? null : pick(services),
      day: days[at]!,
      rate: null,
    };
  });
  const table = new Map(projects.map((id, index) => [id, index]));
  let sink = 0;
  const bare = await median(RUNS, () => {
    let sum = 0;
    for (const entry of entries) sum += table.get(entry.projectId!)!;
    sink += sum;
  });
  const time = await median(RUNS, () => {
    let sum = 0;
    for (const entry of entries) sum += pricer.priceOf(entry)!.scaled;
    sink += sum;
  });
  report(`Price of ${ENTRIES} entries by ${LINES} rate lines`, time, 'bare look-up', bare, 4);
  if (!Number.isFinite(sink)) throw new Error('The sums went astray.');
}
