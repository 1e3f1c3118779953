import 'fake-indexeddb/auto';
import { cleanup, configure, render } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { setUp, TestContext } from '@half-penny/core/testing';
import type { ReactNode } from 'react';
import { Provider } from 'react-redux';
import { MemoryRouter } from 'react-router';
import { afterEach, beforeAll, vi } from 'vitest';
import { BookProvider, usePricer } from '../data/book';
import { WorkspaceDatabase } from '../data/database';
import { DexieExecutor, DexieReader } from '../data/executor';
import { SessionProvider } from '../data/session';
import { ticked } from '../state/clock';
import { store } from '../state/store';

// What components of tests stand in: a studio of their own in a database of memory, at a fixed moment.

// What passes does not wait; on a machine that others keep busy a second is soon over.
configure({ asyncUtilTimeout: 15_000 });

let count = 0;

const readAs = <T,>(blob: Blob, how: 'readAsArrayBuffer' | 'readAsText'): Promise<T> =>
  new Promise((resolve) => {
    const reading = new FileReader();
    reading.onload = () => resolve(reading.result as T);
    reading[how](blob);
  });

/** What a browser has and the tests' stand-in for one has not: how things lie on the page. */
function layTheGround(): void {
  Element.prototype.hasPointerCapture ??= () => false;
  Element.prototype.releasePointerCapture ??= () => undefined;
  Element.prototype.scrollIntoView ??= () => undefined;
  Blob.prototype.arrayBuffer ??= function (this: Blob) {
    return readAs<ArrayBuffer>(this, 'readAsArrayBuffer');
  };
  Blob.prototype.text ??= function (this: Blob) {
    return readAs<string>(this, 'readAsText');
  };
  // Everything counts as shown that stands on the page.
  Object.defineProperty(HTMLElement.prototype, 'offsetParent', {
    configurable: true,
    get(this: HTMLElement) {
      return this.parentElement;
    },
  });
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe = () => undefined;
      unobserve = () => undefined;
      disconnect = () => undefined;
    },
  );
}

/** To be called in a test file's describe: the page is emptied after each test. */
export function useComponents(): void {
  beforeAll(layTheGround);
  afterEach(cleanup);
}

/** A studio with a member at work in it, and `show`, which puts a component into it. */
export async function openStudio() {
  const test = new TestContext();
  const database = new WorkspaceDatabase(`components-${++count}`);
  const executor = new DexieExecutor(database, test.context);
  const at = await setUp(executor, test);
  store.dispatch(ticked(test.now));
  const entry = { id: `studio-${count}`, name: 'Saltmere Lighting', memberId: at.member, database: database.name };
  /** Puts a component into it; somebody else may be at work. */
  const show = (children: ReactNode, memberId = at.member) =>
    render(
      <Provider store={store}>
        <SessionProvider
          entry={entry as never}
          {...{ database, executor }}
          memberId={memberId}
          onMember={() => undefined}
        >
          <BookProvider>
            <MemoryRouter>
              <OnceRead>{children}</OnceRead>
            </MemoryRouter>
          </BookProvider>
        </SessionProvider>
      </Provider>,
    );
  return { at, test, database, executor, reader: new DexieReader(database), show, user: userEvent.setup() };
}

function OnceRead({ children }: { children: ReactNode }) {
  return usePricer() ? children : null;
}
