import { messageOf } from '@half-penny/core/model';
import { Component, type ReactNode } from 'react';
import { Button } from '../parts/button';
import { Page } from '../parts/page';

interface FallenProps {
  /** A new value, such as another address, gives the screen a fresh start. */
  at: string;
  children: ReactNode;
}

/** Catches a screen that falls over: what happened, what is untouched, what to do. The rest of the application goes on. */
export class Fallen extends Component<FallenProps, { message: string | null; at: string }> {
  override state = { message: null as string | null, at: this.props.at };

  static getDerivedStateFromError = (thrown: unknown) => ({ message: messageOf(thrown) });

  static getDerivedStateFromProps = ({ at }: FallenProps, state: { at: string }) =>
    at === state.at ? null : { message: null, at };

  override render() {
    if (this.state.message === null) return this.props.children;
    return (
      <Page title="This screen could not be shown">
        <p role="alert" className="text-fault">
          {this.state.message}
        </p>
        <p className="my-3 text-soft">
          Your data is untouched: everything is saved as it is entered. Show the screen again, or choose another.
        </p>
        <Button onClick={() => this.setState({ message: null })}>Show it again</Button>
      </Page>
    );
  }
}
