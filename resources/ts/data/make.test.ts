import { describe, expect, it } from 'vitest';
import type { ShotDocument } from './document';
import { freeId, freeName, isUsual, materialOf, newProp } from './make';

const empty: ShotDocument = { version: 6, name: 'Test', frames: { first: 0, last: 9, rate: [24, 1] as [number, number] }, world: { gravity: [0, -9.8, 0], ground: { kind: 'flat' }, friction: 0.5, bounce: 0 }, props: [] };
const clay = { label: 'Clay', colour: '#aa5533', inner: '#cc7755', density: 1900, friction: 0.6, bounce: 0.1 };
const source = { kind: 'shape' as const, shape: 'box', values: {} };

describe('newProp', () => {
    it('gives ids and names no other prop has', () => {
        const one = newProp(empty, 'Old jar', source, 'clay', clay);
        const two = newProp({ ...empty, props: [one] }, 'old jar', source, 'clay', clay);
        expect([one.id, two.id]).toEqual(['old-jar', 'old-jar-2']);
        expect([one.name, two.name]).toEqual(['Old jar', 'old jar 2']);
    });
    it('keeps the material’s values and leaves out its label', () => {
        expect(newProp(empty, 'Jar', source, 'clay', clay).material).toEqual({ name: 'clay', colour: '#aa5533', inner: '#cc7755', density: 1900, friction: 0.6, bounce: 0.1 });
    });
});

describe('freeId', () => {
    it('makes an id of any name', () => {
        expect(freeId(empty, '  Dach & Sparren!  ')).toBe('dach-sparren');
        expect(freeId(empty, '日本')).toBe('prop');
        expect(freeId(empty, 'x'.repeat(99))).toHaveLength(30);
    });
    it('keeps names short enough for a document', () => {
        expect(freeName(empty, 'y'.repeat(99))).toHaveLength(50);
    });

    it('has what its material usually is, one\'s own say before what is given', () => {
        const own = { ...clay, own: true, roughness: 0.3 };
        expect(materialOf('clay', own)).toEqual({ name: 'clay', colour: '#aa5533', inner: '#cc7755', density: 1900, friction: 0.6, bounce: 0.1, roughness: 0.3 });
        const made = materialOf('clay', clay);
        expect(isUsual(made, clay)).toBe(true);
        expect(isUsual({ ...made, density: 2000 }, clay)).toBe(false);
        expect(isUsual({ ...made, roughness: 0.3 }, clay)).toBe(false);
        // What is keyed belongs to the prop.
        expect(isUsual({ ...made, friction: { keys: [{ frame: 0, value: 1 }] } }, clay)).toBe(true);
    });
});
