import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import type { Ease, Key, Prop, ShotDocument, Value } from './document';
import { isSeen, poseAt, turnOf } from './pose';
import { eased, momentsOf, valueAt } from './track';

/** A generator of its own, so that a failure can be made again. */
function seeded(seed: number): () => number {
    let s = seed;
    return () => {
        s = (Math.imul(s, 1664525) + 1013904223) >>> 0;
        return s / 2 ** 32;
    };
}

const EASES: Ease[] = ['hold', 'linear', 'smooth', 'hard-start', 'long-tail', 'overshoot', 'bounce', [0.2, -0.4, 0.9, 1.3], [0.25, 0.1, 0.25, 1]];
const OUTSIDE = ['hold', 'repeat', 'swing'] as const;

function value(random: () => number, scale: number, low = -scale): Value {
    if (random() < 0.2) return Number((low + random() * (scale - low)).toFixed(3));
    const keys = Array.from({ length: 1 + Math.floor(random() * 5) }, (): Key => {
        const v = Number((low + random() * (scale - low)).toFixed(3));
        const ease = EASES[Math.floor(random() * EASES.length)]!;
        return random() < 0.25 ? { cue: 'bang', offset: Math.floor(random() * 9) - 4, value: v, ease } : { frame: Math.floor(random() * 40), value: v, ease };
    });
    return { keys: keys as [Key, ...Key[]], before: OUTSIDE[Math.floor(random() * 3)]!, after: OUTSIDE[Math.floor(random() * 3)]! };
}

function props(random: () => number): Prop[] {
    return Array.from({ length: 12 }, (_, i): Prop => ({
        id: `p${i}`, name: `Prop ${i}`, source: { kind: 'shape', shape: 'box', values: {} },
        place: {
            position: [value(random, 3), value(random, 3), value(random, 3)],
            turn: [value(random, 400), value(random, 400), value(random, 400)],
            size: random() < 0.5 ? 1 : { keys: [{ frame: 0, value: 2 }, { frame: 20, value: Number(random().toFixed(2)), ease: 'smooth' }, { frame: 33, value: 1 }] },
            seen: value(random, 1, 0),
            ...(i % 3 === 0 ? { between: 'shortest' as const } : {}),
        },
        material: { name: 'stone', colour: '#9a988f', inner: '#b3b0a6', density: 2600, friction: 0.5, bounce: 0.1 },
        break: null,
        motion: { kind: i === 5 ? 'fixed' : 'keyed' },
    }));
}

interface Row {
    frame: number;
    prop: string;
    position: number[];
    turn: [number, number, number, number];
    size: number;
    seen: boolean;
}

describe('the page and the core', () => {
    it('put every prop in the same place at any moment', () => {
        const document: ShotDocument = {
            version: 6, name: 'Shared', frames: { first: 0, last: 50, rate: [24, 1] },
            world: { gravity: [0, -9.8, 0], ground: { kind: 'flat' }, friction: 0.5, bounce: 0 },
            cues: [{ id: 'bang', name: 'Bang', at: { on: 'frame', frame: 17.5 } }],
            props: props(seeded(11)),
        };
        const path = join(mkdtempSync(join(tmpdir(), 'yard-')), 'shot.json');
        writeFileSync(path, JSON.stringify(document));
        const rows = JSON.parse(execFileSync('bin/yard', ['poses', path, '--step=0.25', '--json'], { maxBuffer: 50_000_000 }).toString()) as Row[];
        expect(rows.length).toBe(12 * 201);
        const moments = momentsOf(document, {});
        for (const row of rows) {
            const prop = document.props.find((p) => p.id === row.prop)!;
            const pose = poseAt(prop, row.frame, moments, 0);
            const where = `${row.prop} at ${row.frame}`;
            row.position.forEach((v, i) => expect(Math.abs(pose.position[i]! - v), where).toBeLessThan(1e-9));
            const q = turnOf(pose.turn);
            const dot = Math.abs(q.x * row.turn[0] + q.y * row.turn[1] + q.z * row.turn[2] + q.w * row.turn[3]);
            expect(1 - dot, where).toBeLessThan(1e-11);
            expect(Math.abs((pose.size ?? 1) - row.size), where).toBeLessThan(1e-9);
            // Where the value is a half to the last bit either may be right.
            if (Math.abs(valueAt(prop.place.seen!, row.frame, moments) - 0.5) > 1e-9) expect(isSeen(prop, row.frame, moments), where).toBe(row.seen);
        }
    });
});

describe('valueAt', () => {
    it('goes on from where it was when a cue happens', () => {
        const v: Value = { keys: [{ frame: 0, value: 0 }, { frame: 40, value: 4 }, { cue: 'hit', offset: 10, value: 0 }] };
        const late = (at: number | null) => ({ frames: { hit: at }, late: { hit: true as const } });
        expect([10, 20, 30].map((f) => valueAt(v, f, late(null)))).toEqual([1, 2, 3]);
        expect([10, 20, 25, 30, 35].map((f) => valueAt(v, f, late(20)))).toEqual([1, 2, 1, 0, 2]);
    });
});

describe('eased', () => {
    it('starts at 0 and ends at 1', () => {
        for (const ease of EASES) expect([eased(ease, 0), eased(ease, 1)]).toEqual([0, 1]);
    });
});
