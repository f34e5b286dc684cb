import { describe, expect, it } from 'vitest';
import type { ShotDocument } from './document';
import { alike, placeOf, tied, tiedTo, untied } from './ties';
import type { ShotValue } from './trials';

const value = (of: string, label: string, with_: Partial<ShotValue> = {}) => ({ of, label, kind: 'number', unit: 'm', keyable: true, place: `${of}/${label}`, ...with_ }) as ShotValue;

describe('numbers that are the same as each other', () => {
    it('are known by where they are, whatever stands before them', () => {
        const document = { props: [{ id: 'a' }, { id: 'b', place: { position: [0, 0, { keys: [] }] }, break: { values: {} }, weights: [{ id: 'm', sources: [{ source: 'front', values: {} }] }] }], forces: [{ id: 'f', values: {} }], world: { gravity: [0, 0, 0] } } as unknown as ShotDocument;
        expect(placeOf(document, 'b:break/values/count')).toBe('props/b/break/values/count');
        expect(placeOf(document, 'b:place/position', 2)).toBe('props/b/place/position/2');
        expect(placeOf(document, ':forces/0/values/speed')).toBe('forces/f/values/speed');
        expect(placeOf(document, ':world/gravity', 1)).toBe('world/gravity/1');
        expect(placeOf(document, 'b:weights/0/sources/0/values/speed')).toBeNull();
    });
    it('are tied and let go, all that was tied before going along', () => {
        expect(tied([], 'b', 'a')).toEqual([['a', 'b']]);
        expect(tied([['a', 'c'], ['b', 'd'], ['x', 'y']], 'b', 'a')).toEqual([['x', 'y'], ['a', 'c', 'b', 'd']]);
        expect(untied([['a', 'b'], ['c', 'd', 'e']], 'd')).toEqual([['a', 'b'], ['c', 'e']]);
        expect(untied([['a', 'b']], 'a')).toEqual([]);
        expect(tiedTo({ ties: [['a', 'b', 'c']] } as unknown as ShotDocument, 'b')).toEqual(['a', 'c']);
    });
    it('are numbers of one kind, those of the same name first', () => {
        const all = [value('Jar', 'Width'), value('Jar', 'Height'), value('Lid', 'Height'), value('Lid', 'Width'), value('Lid', 'Drag', { unit: '' }), value('Lid', 'Move', { place: null }), value('Lid', 'Fixed', { keyable: false })];
        expect(alike(all, 'Jar/Width').map((v) => `${v.label} of ${v.of}`)).toEqual(['Width of Lid', 'Height of Jar', 'Height of Lid']);
        expect(alike(all, 'none')).toEqual([]);
    });
});
