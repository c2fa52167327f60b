import { Button, Stack, Text } from '@mantine/core';
import { Component, type ErrorInfo, type ReactNode } from 'react';
import { say } from '../words/en/ui.ftl';

interface BoundaryProps {
  children: ReactNode;
  /** The whole page, or one place in it. */
  whole?: boolean;
}

interface BoundaryState {
  error: Error | null;
}

/** A part that could not be fetched: the server was restarted with another build, or there is no signal. */
function isMissingPart(error: Error): boolean {
  return /dynamically imported module|module script|Loading chunk|preload/i.test(error.message);
}

/** Where a fault in what it holds ends: words and a way on, instead of a white page. */
export class Boundary extends Component<BoundaryProps, BoundaryState> {
  override state: BoundaryState = { error: null };

  static getDerivedStateFromError(thrown: unknown): BoundaryState {
    return { error: thrown instanceof Error ? thrown : new Error(String(thrown)) };
  }

  override componentDidCatch(error: Error, info: ErrorInfo) {
    console.error('Part of the page didn’t work.', error, info.componentStack);
  }

  override render() {
    const { error } = this.state;
    if (error === null) return this.props.children;
    const missing = isMissingPart(error);
    return (
      <Stack role="alert" align="flex-start" p={this.props.whole ? 'xl' : 0} py="lg">
        <h1 style={{ fontSize: '1.4rem', fontWeight: 600 }}>
          {missing ? say('a-part-of-limpet-could') : say('this-part-of-limpet-didnt')}
        </h1>
        <Text>{missing ? say('check-that-limpet-runs-and') : say('what-you-saved-is-safe')}</Text>
        <Text size="sm" c="dimmed">
          {error.message.slice(0, 300)}
        </Text>
        <div style={{ display: 'flex', gap: '0.6rem', flexWrap: 'wrap' }}>
          {missing ? (
            <Button variant="filled" onClick={() => window.location.reload()}>
              {say('load-again')}
            </Button>
          ) : (
            <Button variant="filled" onClick={() => this.setState({ error: null })}>
              {say('try-again')}
            </Button>
          )}
          <Button component="a" href="/logbook">
            {say('to-the-logbook')}
          </Button>
        </div>
      </Stack>
    );
  }
}
