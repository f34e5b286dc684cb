/** Milliseconds until a bench that was just opened has drawn what it has. */
const PATIENCE = 1500;

/** Milliseconds for which it is pointed at. */
const SHOWN = 1600;

/** Brings what is found, as soon as it is there, into sight, points at it, and gives it the keys. */
export function pointTo(find: () => HTMLElement | undefined, keys = true): void {
    const until = performance.now() + PATIENCE;
    const look = () => {
    const found = find();
        if (found === undefined) {
            if (performance.now() < until) requestAnimationFrame(look);
            return;
        }
        found.scrollIntoView({ block: 'center' });
        if (keys && found.matches('button, input, select')) found.focus();
        found.dataset.found = '';
        setTimeout(() => delete found.dataset.found, SHOWN);
    };
    requestAnimationFrame(look);
}

/** The same of what stands somewhere on the bench, by its name. */
export function pointAt(words: string): void {
    pointTo(() => onBench(words));
}

/** What stands on the bench by a name. */
export function onBench(words: string): HTMLElement | undefined {
    const all = [...document.querySelectorAll<HTMLElement>('main section [aria-label], main section h3, main section button, main section label, main section span')];
    const of = (e: HTMLElement) => (e.getAttribute('aria-label') ?? e.innerText ?? '').trim().toLowerCase();
    return all.find((e) => of(e) === words.toLowerCase()) ?? all.find((e) => of(e).startsWith(words.toLowerCase()));
}
