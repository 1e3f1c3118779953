import type { Pricer } from '@half-penny/core/billing';
import type { Member } from '@half-penny/core/model';
import type { Day } from '@half-penny/core/time';
import { lazy, Suspense, useEffect, type ReactNode } from 'react';
import { useParams } from 'react-router';
import { usePricer } from '../../data/book';
import { useMember, useToday } from '../../data/queries';
import { saveSettings, useCaptureSettings } from '../../data/trail';
import { Loading, Page } from '../../parts/page';
import { PartsNav } from '../../parts/parts-nav';
import { DayPart } from './day-part';

const RulesPart = lazy(() => import('./rules-part'));
const DocumentsPart = lazy(() => import('./documents-part'));
const LookingBackPart = lazy(() => import('./looking-back/looking-back-part'));
const SourcesPart = lazy(() => import('./sources-part'));

export interface PartProps {
  pricer: Pricer;
  member: Member;
  today: Day;
}

const parts: readonly { path: string; name: string; of?: (props: PartProps) => ReactNode }[] = [
  { path: 'day', name: 'To place' },
  { path: 'rules', name: 'Rules', of: (props) => <RulesPart {...props} /> },
  { path: 'documents', name: 'Documents', of: (props) => <DocumentsPart {...props} /> },
  { path: 'back', name: 'Looking back', of: (props) => <LookingBackPart {...props} /> },
  { path: 'sources', name: 'Sources', of: (props) => <SourcesPart {...props} /> },
];

/** From what the computer noticed to entries: stretches to place, rules, documents, and where activity comes from. */
export default function Sift() {
  const { part } = useParams();
  const pricer = usePricer();
  const member = useMember(pricer);
  const today = useToday();
  useOwnAddress(pricer?.book.workspace.email);
  const current = parts.find((each) => each.path === part) ?? parts[0]!;
  const nav = <PartsNav bare label="Parts of Sift" base="/sift" parts={parts} current={part} />;
  if (!pricer || !member)
    return (
      <Page title="Sift" aside={nav}>
        {pricer ? <p>Say in Setup → People who is working in this browser.</p> : <Loading />}
      </Page>
    );
  if (!current.of) return <DayPart {...{ pricer, member, today, nav }} />;
  return (
    <Page title="Sift" aside={nav}>
      <Suspense fallback={<Loading />}>{current.of({ pricer, member, today })}</Suspense>
    </Page>
  );
}

/** The studio's own address tells nothing: it is left out of who took part, until the person says which ones are theirs. */
function useOwnAddress(email: string | undefined): void {
  const settings = useCaptureSettings();
  const isUnsaid = settings?.ownAddresses.length === 0;
  useEffect(() => {
    if (isUnsaid && email?.trim()) void saveSettings({ ownAddresses: [email.trim()] });
  }, [isUnsaid, email]);
}
