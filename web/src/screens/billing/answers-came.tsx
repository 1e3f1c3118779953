import type { Pricer } from '@half-penny/core/billing';
import { readAnswer, type ReadAnswer } from '@half-penny/core/client-page';
import type { Quote } from '@half-penny/core/model';
import { useState } from 'react';
import { wordsOf } from '../../data/in-words';
import type { CameAnswer } from '../../data/online';
import { Button } from '../../parts/button';
import { FileButton } from '../../parts/file-button';
import { AnswerDialog } from './answer-dialog';

interface AnswersProps {
  pricer: Pricer;
  quotes: readonly Quote[];
  /** That came by this machine. */
  answers: readonly CameAnswer[];
  today: string;
}

/** Answers to quotes: those that came by a page of this machine, and files that clients sent back. */
export function AnswersCame({ pricer, quotes, answers, today }: AnswersProps) {
  const [fault, setFault] = useState<string>();
  const [read, setRead] = useState<ReadAnswer>();
  const look = (signed: string) => {
    try {
      const answer = readAnswer(signed, quotes);
      const given = answer.quote.answer;
      if (given) throw new Error(`${answer.version.frozen.number} was ${given.kind} already.`);
      setFault(undefined);
      setRead(answer);
    } catch (thrown) {
      setFault(wordsOf(thrown));
    }
  };
  const waiting = answers.flatMap(({ signed }) => {
    try {
      const answer = readAnswer(signed, quotes);
      return answer.quote.answer ? [] : [answer];
    } catch {
      // Of another workspace, or to a version that holds no more.
      return [];
    }
  });
  return (
    <>
      {fault && (
        <p role="alert" className="max-w-md text-fault">
          {fault}
        </p>
      )}
      {waiting.map((answer) => (
        <Button key={answer.signed} onClick={() => setRead(answer)}>
          {answer.version.frozen.number}: {answer.answer.by.slice(0, 30)} answered
        </Button>
      ))}
      <FileButton
        label="Read an answer"
        accept=".json,application/json"
        onFile={(file) => void file.text().then(look, (thrown: unknown) => setFault(wordsOf(thrown)))}
      />
      {read && (
        <AnswerDialog
          {...{ pricer, today }}
          quote={read.quote}
          kind={read.answer.decision === 'accepted' ? 'accept' : 'decline'}
          came={read}
          onClose={() => setRead(undefined)}
        />
      )}
    </>
  );
}
