import { execFileSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';
import type { ShotDocument } from './document';
import { axesOf, lanesOf, pointerOf, type Keyables } from './lanes';
import { isKeyed } from './track';

describe('lanes', () => {
    it('are there for whatever the core finds keys at, each once, and for nothing else', () => {
        const made = JSON.parse(execFileSync('php', ['tests/all-keyed.php'], { maxBuffer: 1e8 }).toString()) as { document: ShotDocument; catalogue: Keyables; keyed: string[] };
        // props[0].place.turn[1] → /props/0/place/turn/1
        const found = made.keyed.map((path) => `/${path.replaceAll('[', '.').replaceAll(']', '').replaceAll('.', '/')}`).sort();
        const shown = lanesOf(made.document, made.catalogue).flatMap((lane) => {
            const axes = axesOf(made.document, lane) ?? [];
            const at = pointerOf(made.document, lane);
            return axes.flatMap((axis, k) => (isKeyed(axis) ? [axes.length > 1 ? `${at}/${k}` : at] : []));
        }).sort();
        expect(found.length).toBeGreaterThan(100);
        expect(shown).toEqual(found);
    }, 60_000);
});
