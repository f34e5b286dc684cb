import { useMemo } from 'react';
import { useBake } from './bake';
import type { ShotDocument } from './document';
import { useDocument, useShot } from './shot';
import { momentsOf, NOWHERE, type Moments } from './track';

let known: { document: ShotDocument; found: unknown; moments: Moments } | null = null;

/** Where the cues of the open shot stand, as far as that is known. */
export function currentMoments(): Moments {
    const document = useShot.getState().shot?.document;
    if (!document) return NOWHERE;
    const found = useBake.getState().found;
    const pace = useShot.getState().shot?.pace;
    if (known?.document !== document || known.found !== found) known = { document, found, moments: { ...momentsOf(document, found), ...(pace?.length ? { pace: { first: document.frames.first, scene: pace } } : {}) } };
    return known.moments;
}

export function useMoments(): Moments {
    const document = useDocument();
    const found = useBake((s) => s.found);
    return useMemo(() => (document ? momentsOf(document, found) : NOWHERE), [document, found]);
}
