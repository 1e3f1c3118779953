import { asksTrail, type Definition, type SmallPicture } from '@half-penny/core/reports';
import type { Day } from '@half-penny/core/time';
import { useEffect, useState } from 'react';
import { useSession } from '../../data/session';
import { reportsWork } from '../../workers/reports';
import { noticedFor, type Who } from './use-report';
import { useViewer } from './viewed';

/** A report to be drawn in small. */
export interface ToDraw {
  key: string;
  question: Definition;
}

/** Pictures by report: null where there is nothing to draw, absent while it is not drawn yet. */
export type Pictures = ReadonlyMap<string, SmallPicture | null>;

/**
 * Draws reports in small, one after the other, off the page; those that ask the trail last, as it has to be read for them.
 * What cannot be drawn has no picture: opened, the report itself says why.
 */
export function usePictures(wanted: readonly ToDraw[], today: Day, { pricer, member }: Partial<Who>): Pictures {
  const { entry } = useSession();
  const [pictures, setPictures] = useState<Pictures>(new Map());
  const text = JSON.stringify(wanted);
  const view = useViewer(pricer);
  useEffect(() => {
    if (!pricer || !view) return;
    let left = false;
    const draw = async () => {
      const { ready, api } = reportsWork(entry.database, today);
      await ready;
      const inOrder = (JSON.parse(text) as ToDraw[]).toSorted(
        (a, b) => Number(asksTrail(a.question)) - Number(asksTrail(b.question)),
      );
      for (const { key, question: asked } of inOrder) {
        const question = view(asked).definition;
        if (!question) continue;
        const noticed = await noticedFor(question, today, { pricer, member });
        if (left) return;
        if (noticed) await api.setTrail(noticed);
        const picture = await api.picture({ definition: question, runOn: today });
        if (left) return;
        setPictures((now) => new Map([...now, [key, picture]]));
      }
    };
    draw().catch(() => undefined);
    return () => void (left = true);
  }, [entry.database, text, today, pricer, member, view]);
  return pictures;
}
