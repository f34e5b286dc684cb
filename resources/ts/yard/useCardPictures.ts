import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { api, ProblemError, type ShotCard } from '../data/api';

/** Pixels of a card's picture. */
const SIZE = { width: 560, height: 350 } as const;

/** What a picture of the shot would be drawn of now; null while a bake is under way. */
export function pictureOf(shot: ShotCard): string | null {
    const { bake } = shot;
    if (bake?.state === 'running' || bake?.state === 'queued' || shot.props.length === 0) return null;
    return `${shot.revision} ${bake?.state === 'done' ? bake.id : 'unbaked'}`;
}

/** Draws pictures of shots that have none, or an old one, one after the other, and has them kept. */
export function useCardPictures(shots: readonly ShotCard[] | undefined): void {
    const queries = useQueryClient();
    const next = shots?.find((s) => pictureOf(s) !== null && pictureOf(s) !== s.pictureOf && !given.has(`${s.id} ${pictureOf(s)}`));
    const key = next && `${next.id} ${pictureOf(next)}`;
    useEffect(() => {
        if (next === undefined || key === undefined) return;
        const control = new AbortController();
        void (async () => {
            try {
                await draw(next, pictureOf(next)!, control.signal);
            } catch (e) {
                if (control.signal.aborted) return;
                // A shot that cannot be drawn says why when it is opened; its card names its props.
                if (!(e instanceof ProblemError) && !(e instanceof DOMException)) throw e;
            }
            if (control.signal.aborted) return;
            given.add(key);
            await queries.invalidateQueries({ queryKey: ['shots'] });
        })();
        return () => control.abort();
        // What the key names is all that counts.
        // oxlint-disable-next-line react-hooks/exhaustive-deps
    }, [key]);
}

/** Tried since the page was loaded. */
const given = new Set<string>();

async function draw(shot: ShotCard, of: string, signal: AbortSignal): Promise<void> {
    const { Reel } = await import('../picture/Reel');
    const canvas = document.createElement('canvas');
    canvas.width = SIZE.width;
    canvas.height = SIZE.height;
    const reel = await Reel.of(canvas, shot.id, shot.bake?.telling ?? null, signal);
    try {
        reel.draw(shot.bake?.telling ?? shot.frames.first);
        const png = await new Promise<Blob | null>((done) => canvas.toBlob(done));
        signal.throwIfAborted();
        if (png !== null) await api.keepPicture(shot.id, of, png);
    } finally {
        reel.dispose();
    }
}
