import { describe, expect, it } from 'vitest';
import type { Key, Keyed, Prop, ShotDocument, Value } from './document';
import { axisPatch, flattened, keyFrame, keyPatch, mirrored, movedKeys, withKey } from './keys';
import { momentsOf, NOWHERE, shownFrame } from './track';

function prop(id: string, ...frames: (number | { cue: string; offset: number })[]): Prop {
    const keys = frames.map((f, i): Key => (typeof f === 'number' ? { frame: f, value: i } : { ...f, value: i })) as [Key, ...Key[]];
    return {
        id,
        name: id,
        source: { kind: 'shape', shape: 'box', values: {} },
        place: { position: [{ keys }, 0, 0], turn: [0, 0, 0], size: 1 },
        material: { name: 'brick', colour: '#000000', inner: '#000000', density: 1, friction: 1, bounce: 0 },
        motion: { kind: 'keyed' },
    };
}

const shot: ShotDocument = {
    version: 6,
    name: 'Test',
    frames: { first: 0, last: 100, rate: [24, 1] },
    world: { gravity: [0, -9.8, 0], ground: { kind: 'flat' }, friction: 0.5, bounce: 0 },
    cues: [{ id: 'hit', name: 'Hit', at: { on: 'frame', frame: 40 } }],
    props: [prop('gate', 0, 12, 30, { cue: 'hit', offset: 2 }), prop('crane', 5)],
};

const moments = momentsOf(shot, {});
const lane = (id: string, frame: number) => `${id}:place/position ${frame}`;
const keysIn = (value: unknown) => (value as Keyed).keys.map((k) => k.frame ?? `${k.cue}+${k.offset}`);
const after = (picked: string[], by: number, copy = false) => movedKeys(shot, picked, moments, (f) => f + by, copy)?.map((s) => [s.path, keysIn((s as { value: Value }).value)]) ?? null;

describe('movedKeys', () => {
    it('moves only what is picked and keeps keys in order', () => {
        expect(after([lane('gate', 0)], 20)).toEqual([['/props/0/place/position/0', [12, 20, 30, 'hit+2']]]);
    });
    it('moves keys of several props by the same frames', () => {
        expect(after([lane('gate', 30), lane('crane', 5)], 2)).toEqual([['/props/0/place/position/0', [0, 12, 32, 'hit+2']], ['/props/1/place/position/0', [7]]]);
    });
    it('moves what is tied to a cue against the cue', () => {
        expect(after([lane('gate', 42)], -5)).toEqual([['/props/0/place/position/0', [0, 12, 30, 'hit+-3']]]);
    });
    it('copies, and lets picked keys pass over each other’s old frames', () => {
        expect(after([lane('gate', 12)], 5, true)?.[0]?.[1]).toEqual([0, 12, 17, 30, 'hit+2']);
        expect(after([lane('gate', 0), lane('gate', 12)], 12)?.[0]?.[1]).toEqual([12, 24, 30, 'hit+2']);
    });
    it('refuses two keys at one frame, tied ones too', () => {
        expect(after([lane('gate', 0)], 12)).toBeNull();
        expect(after([lane('gate', 30)], 12)).toBeNull();
        expect(after([lane('gate', 0), lane('gate', 12)], 12, true)).toBeNull();
    });
});

describe('keyPatch', () => {
    it('leaves what loses its last key as that had it', () => {
        const [step] = keyPatch(shot, [lane('crane', 5)], moments, () => null);
        expect(step).toEqual({ op: 'replace', path: '/props/1/place/position/0', value: 0 });
    });
    it('leaves the document as it was', () => {
        const before = structuredClone(shot);
        keyPatch(shot, [lane('gate', 0)], moments, (key) => ({ ...key, ease: 'hold' }));
        expect(shot).toEqual(before);
    });
});

describe('axisPatch', () => {
    const picked = [lane('gate', 0), lane('gate', 12), lane('gate', 42), lane('crane', 5)];
    const values = (steps: readonly unknown[]) => steps.map((s) => (s as { value: Keyed }).value.keys.map((k) => k.value));
    it('mirrors each axis about its own middle', () => {
        expect(values(axisPatch(shot, picked, moments, mirrored))).toEqual([[3, 2, 2, 0], [0]]);
    });
    it('flattens each axis to its own mean and leaves what is not picked', () => {
        expect(values(axisPatch(shot, picked, moments, flattened))).toEqual([[1.333, 1.333, 2, 1.333], [0]].map((v) => v.map((x) => expect.closeTo(x, 2) as number)));
    });
});

describe('withKey', () => {
    it('keys a plain number, changes a key that is there, and takes on the ease of the stretch it parts', () => {
        expect(withKey(3, 7, 4, NOWHERE)).toEqual({ keys: [{ frame: 7, value: 4 }] });
        const value: Keyed = { keys: [{ frame: 0, value: 0, ease: 'smooth' }, { frame: 10, value: 1 }] };
        expect(withKey(value, 10, 2, NOWHERE).keys).toEqual([{ frame: 0, value: 0, ease: 'smooth' }, { frame: 10, value: 2 }]);
        expect(withKey(value, 5, 2, NOWHERE).keys[1]).toEqual({ frame: 5, value: 2, ease: 'smooth' });
    });
});

describe('keyFrame', () => {
    const half = { ...NOWHERE, pace: { first: 10, scene: [0, 0.5, 1, 1.5, 2] } };
    it('is where the prop has come to, on the lanes of a place that follows the pace', () => {
        expect(keyFrame('gate:place/position', 12, half)).toBe(11);
        expect(keyFrame('gate:place/turn', 14, half)).toBe(12);
        expect(keyFrame('gate:place/position', 12, NOWHERE)).toBe(12);
    });
    it('is the frame that is shown on every other lane', () => {
        expect(keyFrame('gate:place/seen', 12, half)).toBe(12);
        expect(keyFrame(':forces/0/amount', 12, half)).toBe(12);
    });
    it('is led back to where it is shown', () => {
        for (const own of [10, 11, 12, 15]) expect(keyFrame('gate:place/position', shownFrame(half, own), half)).toBe(own);
        expect(shownFrame(NOWHERE, 7)).toBe(7);
    });
});
