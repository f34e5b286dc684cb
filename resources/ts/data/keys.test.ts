import { describe, expect, it } from 'vitest';
import type { Prop, ShotDocument } from './document';
import { shiftedKeys } from './keys';

function prop(id: string, frames: number[]): Prop {
    return {
        id,
        name: id,
        source: { kind: 'shape', shape: 'box', values: {} },
        place: { position: [0, 0, 0], turn: [0, 0, 0], size: 1 },
        material: { name: 'brick', colour: '#000000', inner: '#000000', density: 1, friction: 1, bounce: 0 },
        motion: { kind: 'keyed', keys: frames.map((frame) => ({ frame, position: [frame, 0, 0], turn: [0, 0, 0] })) },
    };
}

const shot: ShotDocument = {
    version: 2,
    name: 'Test',
    frames: { first: 0, last: 100, rate: 24 },
    world: { gravity: [0, -9.8, 0], ground: { on: true, friction: 0.5, bounce: 0 } },
    props: [prop('gate', [0, 12, 30]), prop('crane', [5])],
};

const framesAfter = (picked: string[], by: number, copy = false) => shiftedKeys(shot, picked, by, copy)?.map((step) => [step.path, (step as { value: { frame: number }[] }).value.map((k) => k.frame)]) ?? null;

describe('shiftedKeys', () => {
    it('moves only what is picked and keeps keys in order', () => {
        expect(framesAfter(['gate 0'], 20)).toEqual([['/props/0/motion/keys', [12, 20, 30]]]);
    });
    it('moves keys of several props by the same frames', () => {
        expect(framesAfter(['gate 30', 'crane 5'], 2)).toEqual([['/props/0/motion/keys', [0, 12, 32]], ['/props/1/motion/keys', [7]]]);
    });
    it('copies keys with what they hold', () => {
        const [step] = shiftedKeys(shot, ['gate 12'], 5, true)!;
        expect((step as { value: unknown }).value).toContainEqual({ frame: 17, position: [12, 0, 0], turn: [0, 0, 0] });
        expect(framesAfter(['gate 12'], 5, true)).toEqual([['/props/0/motion/keys', [0, 12, 17, 30]]]);
    });
    it('lets picked keys pass over each other’s old frames', () => {
        expect(framesAfter(['gate 0', 'gate 12'], 12)).toEqual([['/props/0/motion/keys', [12, 24, 30]]]);
    });
    it('refuses two keys at one frame, and frames before 0', () => {
        expect(framesAfter(['gate 0'], 12)).toBeNull();
        expect(framesAfter(['gate 0', 'gate 12'], 12, true)).toBeNull();
        expect(framesAfter(['crane 5'], -6)).toBeNull();
    });
    it('leaves the document as it was', () => {
        const before = structuredClone(shot);
        shiftedKeys(shot, ['gate 0', 'gate 30'], 3, false);
        expect(shot).toEqual(before);
    });
});
