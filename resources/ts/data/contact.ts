import { create } from 'zustand';
import { askUntilThere, bytesOf, ProblemError, untilWhole, type Problem } from './api';
import { decode, type PropPieces } from './pieces';

/** What there is to say of what a prop's pieces collide as. */
export interface ContactFacts {
    /** Whether that is their true surface. */
    true: boolean;
    /** Faces that others meet, of so many; and metres that they may lie off the true surface. */
    faces: number;
    of: number;
    simplified: number;
    parts: number;
    /** Pieces of more than one part. */
    several: number;
    /** Share of its size that the surface of a piece lies inside its parts at most, and which piece that is. */
    deviation: number;
    /** Of pieces that collide as balls: pairs that overlap where they begin, and the largest share of their sizes at which none would. */
    balls: { pairs: number; fits: number } | null;
    deepest: number;
}

export interface Contact {
    /** What it was asked for. */
    of: string;
    pieces: PropPieces;
    facts: ContactFacts;
}

interface ContactState {
    byProp: Record<string, Contact>;
    /** Share found so far, or null where nothing is being found. */
    working: Record<string, number | null>;
    problems: Record<string, Problem | undefined>;
}

export const useContact = create<ContactState>(() => ({ byProp: {}, working: {}, problems: {} }));

/**
 * Asks for what the pieces of a prop collide as.
 *
 * @param of what that depends on: nothing is asked while it stays the same
 */
export function askContact(shot: string, prop: string, of: string): () => void {
    const control = new AbortController();
    if (useContact.getState().byProp[prop]?.of === of) return () => undefined;
    const say = (share: number | null, problem?: Problem) => useContact.setState((s) => ({ working: { ...s.working, [prop]: share }, problems: { ...s.problems, [prop]: problem } }));
    say(0);
    void (async () => {
        try {
            const pieces = await untilWhole(async () => {
                const response = await askUntilThere<{ share: number }>(`shots/${shot}/props/${prop}/contact`, { signal: control.signal, making: ({ share }) => say(share) });
                return decode(await bytesOf(response), response.headers.get('ETag') ?? '') as PropPieces & { contact: ContactFacts };
            }, control.signal);
            if (control.signal.aborted) return;
            useContact.setState((s) => ({ byProp: { ...s.byProp, [prop]: { of, pieces, facts: pieces.contact } } }));
            say(null);
        } catch (e) {
            if (control.signal.aborted) return;
            if (!(e instanceof ProblemError)) throw e;
            say(null, e.problem);
        }
    })();
    return () => control.abort();
}
