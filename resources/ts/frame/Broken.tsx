import { Component, type ReactNode } from 'react';

/** Catches a fault of the page itself, so that it is said and not just blank. */
export class Broken extends Component<{ children: ReactNode }, { broken: boolean }> {
    override state = { broken: false };

    static getDerivedStateFromError(): { broken: boolean } {
        return { broken: true };
    }

    override render(): ReactNode {
        if (!this.state.broken) return this.props.children;
        return (
            <main className="mx-auto mt-[18vh] max-w-[420px] border border-line bg-raised p-6" role="alert">
                <h1 className="font-medium">This page has failed</h1>
                <p className="mt-2 text-soft">That is a fault of Yard Break. Nothing of the shot is lost: all that was said to be saved is.</p>
                <button type="button" className="mt-4 border border-line bg-paper px-3 py-1.5 hover:border-ink" onClick={() => location.reload()}>Reload the page</button>
            </main>
        );
    }
}
