import {
  plainDefinition,
  readDefinition,
  readyMade,
  rightsForMeasure,
  smallQuestion,
  type Definition,
  type ReportGroup,
  type SmallPicture,
} from '@half-penny/core/reports';
import type { Report, Right } from '@half-penny/core/model';
import type { Day, LengthStyle } from '@half-penny/core/time';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { usePricer } from '../../data/book';
import { useMember } from '../../data/queries';
import { useRights } from '../../data/rights';
import { Section } from '../../parts/page';
import { SmallChart } from './small-chart';
import { useStandingPictures } from './standing-pictures';
import { usePictures, type Pictures, type ToDraw } from './use-pictures';

/** A report that stands in the list: a question that comes with the product, or one on where things stand. */
interface Listed {
  key: string;
  /** Left out for whoever lacks one of these rights. */
  all?: readonly Right[];
  group: ReportGroup;
  to: string;
  name: string;
  says: string;
}

/** Reports that are no question of the builder’s. */
const standings: readonly Listed[] = [
  {
    key: 'standing to-bill',
    all: ['reports', 'see rates'],
    group: 'money',
    to: '/reports/standing/to-bill',
    name: 'To bill, by age',
    says: 'How long ago the work was done that is not invoiced yet.',
  },
  {
    key: 'standing owed',
    all: ['reports', 'see rates'],
    group: 'money',
    to: '/reports/standing/owed',
    name: 'Owed to us, by age',
    says: 'What clients owe, how late it is, and how many days they take to pay.',
  },
  {
    key: 'standing lost',
    all: ['reports', 'see rates'],
    group: 'money',
    to: '/reports/standing/lost',
    name: 'What was lost',
    says: 'Time never placed, write-downs, hours above caps, and rounding.',
  },
  {
    key: 'standing burn',
    all: ['reports', 'see rates'],
    group: 'money',
    to: '/reports/standing/burn',
    name: 'Budget burn',
    says: 'What is used of each budget, and when it is used up at this pace.',
  },
  {
    key: 'standing time',
    group: 'hours',
    to: '/time',
    name: 'All time',
    says: 'Every entry in one list: to bill, on a draft, invoiced, paid or written off.',
  },
  {
    key: 'standing closed',
    all: ['reports'],
    group: 'hours',
    to: '/reports/standing/closed',
    name: 'Closed and opened again',
    says: 'Which days were closed, and who opened any again, and why.',
  },
  {
    key: 'standing words',
    group: 'attention',
    to: '/reports/standing/words',
    name: 'Attention by words in titles',
    says: 'How long each word stood in the title of what was in front, by this computer’s trail.',
  },
];

/** What it takes to see anything of a report: the rights that all its measures ask for. */
const needed = ({ measures }: Definition): Right[] => {
  const [first = [], ...others] = measures.map(rightsForMeasure);
  return first.filter((right) => others.every((each) => each.includes(right)));
};

const listed: readonly Listed[] = [
  ...readyMade.map(({ key, group, name, says, definition }) => ({
    key,
    group,
    to: `/reports/made/${key}`,
    name,
    says,
    all: needed(definition),
  })),
  ...standings,
];

const groups: readonly { group: ReportGroup; name: string }[] = [
  { group: 'money', name: 'Money' },
  { group: 'hours', name: 'Hours' },
  { group: 'attention', name: 'Attention' },
];

/** What is drawn of those that come with the product. */
const ownPictures: readonly ToDraw[] = [
  ...readyMade.map(({ key, definition, picture }) => ({ key, question: smallQuestion(definition, picture) })),
  {
    key: 'standing time',
    question: {
      ...plainDefinition,
      rows: ['week'],
      measures: ['recorded'],
      when: { kind: 'moving', name: 'this quarter' },
    },
  },
  {
    key: 'standing lost',
    question: {
      ...plainDefinition,
      rows: ['reason'],
      measures: ['written down'],
      when: { kind: 'moving', name: 'this year' },
    },
  },
];

/** Pictures of kept reports and of those that come with the product, with the studio’s own figures. */
export function useReportPictures(kept: readonly Report[], today: Day): Pictures {
  const pricer = usePricer();
  const member = useMember(pricer);
  const wanted = useMemo(
    () => [
      ...kept.map(({ id, definition }) => ({
        key: id,
        question: smallQuestion(readDefinition(definition).definition),
      })),
      ...ownPictures,
    ],
    [kept],
  );
  const drawn = usePictures(wanted, today, { ...(pricer && { pricer }), member });
  const standing = useStandingPictures(pricer, member, today);
  return useMemo(() => new Map<string, SmallPicture | null>([...drawn, ...standing]), [drawn, standing]);
}

/** Reports that come with the product, by what they are about, each with a small picture. */
export function ReadyMadeReports({ pictures, style }: { pictures: Pictures; style: LengthStyle }) {
  const rights = useRights();
  return (
    <div className="grid gap-x-8 lg:grid-cols-3">
      {groups.map(({ group, name }) => (
        <Section key={group} title={name}>
          <ul className="border-t border-ink">
            {listed
              .filter((each) => each.group === group && (each.all ?? []).every((right) => rights.has(right)))
              .map((each) => (
                <li key={each.key} className="relative flex gap-3 border-b border-rule px-1 py-2 hover:bg-time-ground">
                  <span className="min-w-0 flex-1">
                    <Link to={each.to} className="font-semibold text-time after:absolute after:inset-0">
                      {each.name}
                    </Link>
                    <span className="block text-xs text-soft">{each.says}</span>
                  </span>
                  <SmallChart picture={pictures.get(each.key)} style={style} />
                </li>
              ))}
          </ul>
        </Section>
      ))}
    </div>
  );
}
