import { describe, expect, it } from 'vitest';
import { boxOf, otherPieces, piecesByName, piecesBySize, withinBox } from './pickPieces';

const pieces = [['rim-1', 4], ['rim-12', 1], ['Base', 9], ['wall (left)', 1]].map(([name, volume]) => ({ name: String(name), volume: Number(volume), centre: [0, 0, 0] as [number, number, number] }));

describe('picking pieces', () => {
    it('goes by name, whole with a star, part without', () => {
        expect(piecesByName(pieces, 'rim')).toEqual([0, 1]);
        expect(piecesByName(pieces, 'rim-1*')).toEqual([0, 1]);
        expect(piecesByName(pieces, '*-1')).toEqual([0]);
        expect(piecesByName(pieces, 'base, (left)')).toEqual([2, 3]);
        expect(piecesByName(pieces, ' , ')).toEqual([]);
    });
    it('goes by size, the first of equals first', () => {
        expect(piecesBySize(pieces, 'larger', 2)).toEqual([0, 2]);
        expect(piecesBySize(pieces, 'smaller', 1)).toEqual([3]);
        expect(piecesBySize(pieces, 'smaller', 9)).toEqual([0, 1, 2, 3]);
    });
    it('turns round', () => expect(otherPieces(4, [1, 2])).toEqual([0, 3]));
    it('takes what lies in a box, two thousand of them in no time', () => {
        const places = new Float32Array(6000).map((_, k) => (k % 3 === 0 ? k / 3 : 0));
        const box = boxOf([1500, 5], [999.5, -5]);
        expect(box).toEqual([999.5, -5, 1500, 5]);
        const begun = performance.now();
        const found = withinBox(places, box, (x, y) => [x, y, 0]);
        expect(performance.now() - begun).toBeLessThan(50);
        expect([found.length, found[0], found.at(-1)]).toEqual([501, 1000, 1500]);
        expect(withinBox(places, box, (x, y) => [x, y, 1.5])).toEqual([]);
    });
});
