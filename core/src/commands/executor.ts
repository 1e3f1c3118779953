import { Engine, type ExecutionContext } from '../engine/perform';
import type { MemoryStore } from '../engine/memory';
import type { UndoStanding } from '../engine/undo';
import type { JournalRow } from '../model/change';
import type { CommandInput, CommandName } from './catalogue';
import { domain } from './domain';

/** Runs commands on a workspace, one at a time. Every place a workspace lives in has one, with the same contract. */
export interface Executor {
  run<N extends CommandName>(name: N, input: CommandInput<N>): Promise<JournalRow>;
  undo(seq?: number): Promise<JournalRow>;
  redo(): Promise<JournalRow>;
  standing(): Promise<UndoStanding>;
}

/** Carries out this domain's commands, wherever a workspace is kept. */
export const engine = new Engine(domain);

/** The executor that tests, the command line and the demo use. */
export class MemoryExecutor implements Executor {
  readonly store: MemoryStore;
  readonly #context: () => ExecutionContext;
  #last: Promise<unknown> = Promise.resolve();

  constructor(store: MemoryStore, context: () => ExecutionContext) {
    this.store = store;
    this.#context = context;
  }

  run<N extends CommandName>(name: N, input: CommandInput<N>): Promise<JournalRow> {
    return this.#inTurn(() => engine.perform(this.store, name, input, this.#context()));
  }

  undo(seq?: number): Promise<JournalRow> {
    return this.#inTurn(() => engine.undo(this.store, this.#context(), seq));
  }

  redo(): Promise<JournalRow> {
    return this.#inTurn(() => engine.redo(this.store, this.#context()));
  }

  standing(): Promise<UndoStanding> {
    return engine.standing(this.store, this.#context().device);
  }

  /** One change at a time, as a database transaction would have it. */
  #inTurn<T>(task: () => Promise<T>): Promise<T> {
    const turn = this.#last.then(task, task);
    this.#last = turn.catch(() => undefined);
    return turn;
  }
}
