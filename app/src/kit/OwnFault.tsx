import { Component, type ReactNode } from 'react';

/** What fails while it is drawn fails alone: something else stands in its place until it is another (`of`). */
export class OwnFault extends Component<
  { of: unknown; otherwise: ReactNode; children: ReactNode },
  { failedOf: unknown; failed: boolean }
> {
  override state = { failedOf: null as unknown, failed: false };

  static getDerivedStateFromError() {
    return { failed: true };
  }

  static getDerivedStateFromProps({ of }: { of: unknown }, before: { failedOf: unknown; failed: boolean }) {
    return before.failed && before.failedOf !== null && before.failedOf !== of
      ? { failed: false, failedOf: null }
      : { failedOf: of };
  }

  override render() {
    return this.state.failed ? this.props.otherwise : this.props.children;
  }
}
