import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { PatchStep, ShotView } from './api';
import type { ShotDocument } from './document';
import { applyPatch } from './patch';
import { useShot } from './shot';

/** What the server has, and answers that are held back until they are let out. */
const server = { shot: null as unknown as ShotView, answers: [] as (() => void)[] };

vi.mock('./api', async (original) => ({
    ...(await original<typeof import('./api')>()),
    api: {
        edit: (_: string, revision: number, patch: PatchStep[]) =>
            new Promise<ShotView>((done) => {
                server.shot = { ...server.shot, revision: revision + 1, document: applyPatch(server.shot.document, patch) };
                const answer = server.shot;
                server.answers.push(() => done(answer));
            }),
    },
}));

const document = { version: 6, name: 'Shot', frames: { first: 0, last: 10, rate: [24, 1] }, world: { gravity: [0, -9.8, 0], ground: { kind: 'flat' }, friction: 0.5, bounce: 0 }, props: [] } as unknown as ShotDocument;

const turns = () => new Promise((r) => setTimeout(r));

describe('useShot', () => {
    beforeEach(() => {
        server.shot = { id: 'a', revision: 0, document, tags: {} } as unknown as ShotView;
        server.answers = [];
        useShot.setState({ shot: server.shot, saving: 0 });
    });
    it('shows a change from when it is made, also while the answer to one before it comes', async () => {
        const shown = () => [useShot.getState().shot!.document.world.friction, useShot.getState().shot!.document.world.bounce];
        const one = useShot.getState().edit('Friction', [{ op: 'replace', path: '/world/friction', value: 0.1 }]);
        await turns();
        const two = useShot.getState().edit('Bounce', [{ op: 'replace', path: '/world/bounce', value: 0.7 }]);
        expect(shown()).toEqual([0.1, 0.7]);
        expect(useShot.getState().saving).toBe(2);
        server.answers[0]!();
        await one;
        await turns();
        expect(shown()).toEqual([0.1, 0.7]);
        expect(useShot.getState().shot!.revision).toBe(1);
        server.answers[1]!();
        await two;
        expect(shown()).toEqual([0.1, 0.7]);
        expect([useShot.getState().shot!.revision, useShot.getState().saving]).toEqual([2, 0]);
    });
});
