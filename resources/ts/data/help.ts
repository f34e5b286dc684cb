import { create } from 'zustand';

/** A page of the docs that is read beside the work, and the heading it begins at. */
export const useHelp = create<{ page: string | null; at: string; open: (page: string) => void; close: () => void }>((set) => ({
    page: null,
    at: '',
    open: (page) => {
        const [name = '', at = ''] = page.split('#');
        set({ page: name, at });
    },
    close: () => set({ page: null }),
}));

/** How a heading is named in a link to it. */
export function anchorOf(heading: string): string {
    return heading.toLowerCase().replace(/[^\p{L}\p{N}\s-]/gu, '').trim().replace(/\s+/g, '-');
}

/** What a link in a page of the docs leads to: another page, a heading of this one, or nothing that is read here. */
export function linkIn(page: string, href: string): string | null {
    if (href.startsWith('#')) return page + href;
    const found = /^(?:\.\/)?([a-z-]+)\.md(#.*)?$/.exec(href);
    return found === null ? null : `${found[1]!}${found[2] ?? ''}`;
}

/** The words of the product, as they are used here. */
export const WORDS: Readonly<Record<string, string>> = {
    prop: 'Something in the shot: what breaks, what it falls on, what hits it.',
    pieces: 'What a prop comes apart into: solid, fitting without a gap until they are let go.',
    bake: 'Working out every frame, kept so that it plays at once and can be gone on from.',
    released: 'Let go: from then on forces move it.',
    cue: 'A named moment that keys and releases hang on; moved, they move along.',
    cues: 'Named moments that keys and releases hang on; moved, they move along.',
    'weight map': 'How much of something each place of a prop has, from 0 to 1, over the frames.',
    plate: 'The filmed picture behind the props.',
    variants: 'The shot with other values, baked beside it; the shot stays as it is.',
    docket: 'The record of a bake: its figures over the frames, and what touched what.',
    cast: 'A baked frame kept as a prop.',
    drift: 'Motion by rule and weight map, without physics.',
};
