import { ProblemError } from './api';

/** How often it is tried, and the milliseconds before the first time again; then longer and longer. */
const TRIES = 40;
const AGAIN = 300;
const LONGEST = 3000;

/** Does something, and does it again after a moment where the server was busy or out of reach, as long as it is wanted. */
export async function persist(go: () => Promise<void>, wanted: () => boolean): Promise<void> {
    for (let tries = 1; ; tries++) {
        try {
            await go();
            return;
        } catch (e) {
            const refused = e instanceof ProblemError && e.status >= 400 && e.status < 500 && e.status !== 429;
            if (refused || !wanted()) return;
            // An answer that breaks off is a TypeError.
            if (!(e instanceof ProblemError || e instanceof TypeError) || tries === TRIES) throw e;
            await new Promise((r) => setTimeout(r, Math.min(LONGEST, AGAIN * 2 ** (tries - 1))));
            if (!wanted()) return;
        }
    }
}
