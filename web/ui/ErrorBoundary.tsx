import { Component, type ReactNode } from 'react'
import { Failure } from './States.tsx'

/** A page that fails shows why, and leaves the rest of the application standing. */
export class ErrorBoundary extends Component<{ children: ReactNode }, { error: unknown }> {
  override state = { error: undefined as unknown }
  static getDerivedStateFromError(error: unknown) {
    return { error }
  }
  override render() {
    if (this.state.error === undefined) return this.props.children
    return <Failure error={this.state.error} onRetry={() => this.setState({ error: undefined })} />
  }
}
