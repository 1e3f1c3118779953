import { type Cost, type Entry, type Right } from '@half-penny/core/model';
import { jobName } from '@half-penny/core/billing';
import { showAmount } from '@half-penny/core/money';
import { showLength } from '@half-penny/core/time';
import { Command } from 'cmdk';
import { Dialog as Radix } from 'radix-ui';
import { useMemo, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { useInvoices } from '../data/billing';
import { usePricer, useTimer } from '../data/book';
import { useLatest } from '../data/queries';
import { useChanges, useSession } from '../data/session';
import { useKnownTags } from '../data/tags';
import { showShortDay } from '../parts/days';
import { itemLook } from '../parts/jobs';
import { finderOpened, themeChosen, themes, tillOpened } from '../state/shell';
import { useAppDispatch } from '../state/store';
import { hasAny, SEE_COSTS, SEE_OTHERS, useRights } from '../data/rights';
import { places, useIsFor } from './sections';
import { showKey } from '../parts/keys';

const MOST = 8;
/** Who may open the pages of clients and their work. */
const SUBJECTS: readonly Right[] = places.find(({ path }) => path === '/clients')!.any!;
/** What else screens are called. */
const aka: Readonly<Record<string, string>> = {
  '/today': 'day entries',
  '/sift': 'trail activity capture tracked automatic',
  '/week': 'timesheet hours grid',
  '/costs': 'expenses bills purchases',
  '/billing': 'invoices money',
  '/reports': 'analysis statistics charts',
  '/clients': 'customers projects tasks',
  '/setup': 'settings preferences options rates taxes',
};

interface Found {
  id: string;
  text: ReactNode;
  words: string;
  act: () => void;
  /** For whoever has one of these rights; for everybody where not given. */
  any?: readonly Right[];
}

/** Ctrl K: finds clients, projects, entries and invoices by name, and runs commands. */
export default function Finder() {
  const dispatch = useAppDispatch();
  const [typed, setTyped] = useState('');
  const close = () => dispatch(finderOpened(false));
  const groups = useFound(typed, close);
  return (
    <Radix.Root open onOpenChange={(open) => !open && close()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-till/50" />
        <Radix.Content
          aria-describedby={undefined}
          className="fixed top-[10vh] left-1/2 z-50 w-[min(600px,calc(100vw-24px))] -translate-x-1/2 rounded-lg border border-strong bg-sheet shadow-xl"
        >
          <Radix.Title className="sr-only">Find or do</Radix.Title>
          <Command shouldFilter={false} label="Find or do">
            <Command.Input
              autoFocus
              value={typed}
              onValueChange={setTyped}
              placeholder="A client, project, task, tag, note, invoice, cost, or something to do…"
              className="w-full border-b border-ink bg-transparent px-4 py-3 text-lg outline-none"
            />
            <Command.List className="max-h-[56vh] overflow-auto p-2">
              {groups.every(([, found]) => found.length === 0) && (
                <p role="status" className="px-2 py-4 text-soft">
                  Nothing is called “{typed.trim().slice(0, 80)}”: no client, contract, project, task, tag, note,
                  invoice or cost, and nothing to do.
                </p>
              )}
              {groups
                .filter(([, found]) => found.length > 0)
                .map(([heading, found]) => (
                  <Command.Group
                    key={heading}
                    heading={heading}
                    className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-soft"
                  >
                    {found.map(({ id, text, act }) => (
                      <Command.Item key={id} value={id} onSelect={act} className={`${itemLook} written`}>
                        {text}
                      </Command.Item>
                    ))}
                  </Command.Group>
                ))}
            </Command.List>
          </Command>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

function useFound(typed: string, close: () => void): [string, Found[]][] {
  const pricer = usePricer();
  const invoices = useInvoices();
  const timer = useTimer();
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const { attempt, undo, redo } = useChanges();
  const rights = useRights();
  const isFor = useIsFor();
  const words = useMemo(() => typed.toLowerCase().split(/\s+/).filter(Boolean), [typed]);
  const tags = useKnownTags();
  const has = useMemo(
    () => (words.length === 0 ? null : (text: string) => words.every((word) => text.toLowerCase().includes(word))),
    [words],
  );
  const { memberId } = useSession();
  const seesAllCosts = hasAny(rights, SEE_COSTS);
  const seesAllTime = hasAny(rights, SEE_OTHERS);
  const ofCost = useMemo(
    () =>
      has &&
      ((cost: Cost) => (seesAllCosts || cost.memberId === memberId) && has(`${cost.supplier} ${cost.reference}`)),
    [has, seesAllCosts, memberId],
  );
  const ofEntry = useMemo(
    () => has && ((entry: Entry) => (seesAllTime || entry.memberId === memberId) && has(entry.note)),
    [has, seesAllTime, memberId],
  );
  const costs = useLatest('costs', ofCost, MOST);
  const entries = useLatest('entries', ofEntry, MOST);
  if (!pricer) return [];
  const then = (act: () => void) => () => {
    close();
    act();
  };
  const go = (path: string) => then(() => void navigate(path));
  const commands: Found[] = [
    ...places.filter(isFor).map(({ path, name, key }) => ({
      id: path,
      text: `Go to ${name} (${showKey(key)})`,
      words: `go to ${name} ${aka[path] ?? ''}`,
      act: go(path),
    })),
    {
      id: 'add-time',
      any: ['record own', 'record others'],
      text: `Add time by hand (${showKey('today.add')} on Today)`,
      words: 'add new log enter time by hand entry hours manual',
      act: go('/today?add=1'),
    },
    {
      id: 'start',
      any: ['record own'],
      text: `Start or switch the timer ( ${showKey('till.open')} )`,
      words: 'start switch timer clock in track record',
      act: then(() => dispatch(tillOpened(true))),
    },
    ...(timer
      ? [
          {
            id: 'stop',
            text: 'Stop the timer',
            words: 'stop pause end finish timer clock out',
            act: then(() => void attempt('timer.stop', { id: timer.id })),
          },
        ]
      : []),
    {
      id: 'all-time',
      any: ['record own', 'record others', 'approve'],
      text: 'All time as one list',
      words: 'all time list entries log history timesheet records search unbilled invoiced paid',
      act: go('/time'),
    },
    {
      id: 'expense',
      any: ['record own', 'record others', 'costs'],
      text: 'New expense',
      words: 'new add expense receipt cost purchase',
      act: go('/costs/new/expense'),
    },
    {
      id: 'bill',
      any: ['costs'],
      text: 'New supplier bill',
      words: 'new add supplier bill cost purchase',
      act: go('/costs/new/bill'),
    },
    {
      id: 'invoice',
      any: ['billing'],
      text: 'Make an invoice: what is to bill',
      words: 'new make create invoice bill charge to bill draft unbilled',
      act: go('/billing'),
    },
    {
      id: 'statement',
      any: ['costs'],
      text: 'Import a statement of a bank or bookkeeping',
      words: 'import bank statement card ledger csv ofx camt',
      act: go('/costs/in'),
    },
    {
      id: 'rates',
      any: ['rates'],
      text: 'Rates and markups of the studio',
      words: 'rates prices hourly charge markup card setup',
      act: go('/setup/rates'),
    },
    {
      id: 'keys',
      text: 'Keys, and what they do',
      words: 'keys keyboard shortcuts help hotkeys',
      act: go('/setup/keys'),
    },
    { id: 'undo', text: `Undo (${showKey('undo')})`, words: 'undo take back revert', act: then(() => void undo()) },
    { id: 'redo', text: `Redo (${showKey('redo')})`, words: 'redo again repeat', act: then(() => void redo()) },
    {
      id: 'hours-in',
      any: ['record own', 'record others'],
      text: 'Import hours or a calendar',
      words: 'import hours calendar csv xlsx ics',
      act: go('/hours/in'),
    },
    {
      id: 'hours-out',
      any: ['record own', 'record others', 'approve'],
      text: 'Export hours',
      words: 'export hours csv xlsx ics',
      act: go('/hours/out'),
    },
    {
      id: 'work-in',
      any: ['work'],
      text: 'Import clients and work',
      words: 'import clients projects tasks services list csv xlsx',
      act: go('/clients/in'),
    },
    {
      id: 'month',
      any: ['record own', 'record others', 'approve'],
      text: 'The month, day by day',
      words: 'month calendar',
      act: go('/today?view=month'),
    },
    {
      id: 'client',
      any: ['work'],
      text: 'Add a client',
      words: 'add new create client customer',
      act: go('/clients?add=1'),
    },
    {
      id: 'export',
      any: ['setup'],
      text: 'Export everything as a file',
      words: 'export save backup back up file data download',
      act: go('/setup/data'),
    },
    ...themes.map((theme) => ({
      id: theme,
      text: `Theme: ${theme}`,
      words: `theme ${theme}`,
      act: then(() => dispatch(themeChosen(theme))),
    })),
  ];
  const clients: Found[] = pricer.book.clients.map((client) => ({
    id: client.id,
    any: SUBJECTS,
    text: client.name,
    words: client.name,
    act: go(`/clients/${client.id}`),
  }));
  const projects: Found[] = pricer.book.projects.map((project) => ({
    id: project.id,
    any: SUBJECTS,
    text: jobName(pricer, project.id),
    words: `${pricer.tree.pathOf(project.id)} ${project.jobNumber} ${pricer.clientOf(project.id)?.name ?? ''}`,
    act: go(`/clients/project/${project.id}`),
  }));
  const contracts: Found[] = pricer.book.contracts.map((contract) => ({
    id: contract.id,
    any: SUBJECTS,
    text: `${contract.name} · contract with ${pricer.client.get(contract.clientId)?.name ?? ''}`,
    words: `${contract.name} contract ${pricer.client.get(contract.clientId)?.name ?? ''}`,
    act: go(`/clients/contract/${contract.id}`),
  }));
  const tasks = pricer.book.tasks.map((task) => ({
    id: task.id,
    text: `${task.name} · ${task.projectId === null ? `for ${task.free}` : jobName(pricer, task.projectId)}`,
    words: `${task.name} ${task.projectId === null ? '' : pricer.tree.pathOf(task.projectId)}`,
    act: go(`/time?task=${task.id}&from=2000-01-01`),
  }));
  const tagged = (tags ?? []).map((tag) => ({
    id: `tag ${tag}`,
    text: `Time with the tag ${tag}`,
    words: tag,
    act: go(`/time?words=${encodeURIComponent(tag)}&from=2000-01-01`),
  }));
  const bought = (costs ?? []).map((cost) => ({
    id: cost.id,
    text: [cost.supplier || 'A cost', cost.reference, showShortDay(cost.day)].filter(Boolean).join(' · '),
    words: '',
    act: go(`/costs/cost/${cost.id}`),
  }));
  const bills: Found[] = (invoices ?? []).map(({ invoice }) => {
    const client = pricer.client.get(invoice.clientId)?.name ?? '';
    const number = invoice.frozen?.number ?? 'Draft';
    return {
      id: invoice.id,
      any: ['billing'],
      text: `${number} · ${client}${invoice.frozen ? ` · ${showAmount(invoice.frozen.total, invoice.currency)}` : ''}`,
      words: `${number} ${client}`,
      act: go(`/billing/invoice/${invoice.id}`),
    };
  });
  const recorded = (entries ?? []).map((entry) => ({
    id: entry.id,
    text: `${entry.note.slice(0, 120)} · ${showShortDay(entry.day)} · ${showLength(entry.seconds)}`,
    words: entry.note,
    act: go(`/today?day=${entry.day}&member=${entry.memberId}&entry=${entry.id}`),
  }));
  const fitting = (found: Found[]) =>
    found
      .filter(({ any }) => !any || hasAny(rights, any))
      .filter((each) => words.every((word) => each.words.toLowerCase().includes(word)))
      .slice(0, MOST);
  const named: [string, Found[]][] =
    words.length > 0
      ? [
          ['Clients', fitting(clients)],
          ['Contracts', fitting(contracts)],
          ['Projects', fitting(projects)],
          ['Tasks', fitting(tasks)],
          ['Tags', fitting(tagged)],
          ['Invoices', fitting(bills)],
          ['Costs', bought],
          ['Entries', recorded],
        ]
      : [];
  return [...named, ['Do', fitting(commands)]];
}
