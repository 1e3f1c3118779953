import { writeSentence, type PlacingRule } from '@half-penny/core/capture';
import { showLength } from '@half-penny/core/time';
import { useEffect, useState } from 'react';
import { captureWork, type RuleEffect } from '../workers/capture';

const DAYS = 90;
const DAY_MS = 86_400_000;
const minutesOf = (ms: number): string => showLength(Math.round(ms / 60_000) * 60);

/** What a rule would have matched, a moment after it was last changed. */
export function useRuleEffect(
  rule: PlacingRule | null,
  rules: readonly PlacingRule[] | undefined,
  zone: string,
): RuleEffect | null {
  const [effect, setEffect] = useState<RuleEffect | null>(null);
  const key = rule && rules ? JSON.stringify([rule.id, rule.order, rule.when, rules]) : null;
  useEffect(() => {
    setEffect(null);
    if (key === null) return;
    let left = false;
    const waiting = setTimeout(() => {
      const now = Date.now();
      const bounds = { start: now - DAYS * DAY_MS, end: now };
      captureWork()
        .effect(rule!, rules!, bounds, zone)
        .then(
          (found) => !left && setEffect(found),
          () => undefined,
        );
    }, 300);
    return () => {
      left = true;
      clearTimeout(waiting);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what it depends on stands in the key
  }, [key, zone]);
  return effect;
}

/** What a rule would have matched lately, what that was, and what it takes from other rules. */
export function RuleEffectLines({ effect, rules }: { effect: RuleEffect; rules: readonly PlacingRule[] }) {
  const nameOfRule = (id: string) => {
    const other = rules.find((each) => each.id === id);
    return other ? writeSentence(other.when) : 'a rule';
  };
  return (
    <>
      <p>
        In the last {DAYS} days it would have matched <b>{minutesOf(effect.seen)}</b> in {effect.stretches}{' '}
        {effect.stretches === 1 ? 'stretch' : 'stretches'}.
      </p>
      {effect.examples.length > 0 && (
        <ul aria-label="What it would have matched" className="my-1 max-w-xl text-soft">
          {effect.examples.map((each) => (
            <li key={each.name} className="flex justify-between gap-4 border-b border-rule py-0.5">
              <span className="written min-w-0 truncate">{each.name}</span>
              <span className="font-mono whitespace-nowrap">{minutesOf(each.seen)}</span>
            </li>
          ))}
        </ul>
      )}
      {effect.takes.map((each) => (
        <p key={each.ruleId} className="written text-attention">
          {minutesOf(each.seen)} of it would otherwise go by: {nameOfRule(each.ruleId)}
        </p>
      ))}
    </>
  );
}
