import { Component, Suspense, type ReactNode } from 'react';
import { inWords, type InWords } from '../data/in-words';
import { Button } from '../parts/button';
import { Page } from '../parts/page';

interface FallenProps {
  /** A new value, such as another address, gives the screen a fresh start. */
  at: string;
  children: ReactNode;
}

/** Catches a screen that falls over: what happened, what is untouched, what to do. The rest of the application goes on. */
export class Fallen extends Component<FallenProps, { why: InWords | null; at: string }> {
  override state = { why: null as InWords | null, at: this.props.at };

  static getDerivedStateFromError = (thrown: unknown) => ({ why: inWords(thrown) });

  static getDerivedStateFromProps = ({ at }: FallenProps, state: { at: string }) =>
    at === state.at ? null : { why: null, at };

  override render() {
    const { why } = this.state;
    if (why === null) return this.props.children;
    return (
      <Page title="This screen could not be shown">
        <div role="alert" className="text-fault">
          <p>{why.text}</p>
          {why.detail && <p className="written mt-1 font-mono text-sm">{why.detail.slice(0, 500)}</p>}
        </div>
        <p className="my-3 text-soft">
          Your data is untouched: everything is saved as it is entered. Show the screen again, or choose another.
        </p>
        <div className="flex gap-3">
          <Button onClick={() => this.setState({ why: null })}>Show it again</Button>
          <Button onClick={() => location.reload()}>Load the page again</Button>
        </div>
      </Page>
    );
  }
}

interface WholeProps {
  /** The page in place of everything. */
  show: (why: InWords) => ReactNode;
  children: ReactNode;
}

/** Catches what falls over around the screens: then nothing can be shown but a page in words. */
export class FallenWhole extends Component<WholeProps, { why: InWords | null }> {
  override state = { why: null as InWords | null };

  static getDerivedStateFromError = (thrown: unknown) => ({ why: inWords(thrown) });

  override render() {
    const { why } = this.state;
    return why === null ? this.props.children : <Suspense>{this.props.show(why)}</Suspense>;
  }
}
