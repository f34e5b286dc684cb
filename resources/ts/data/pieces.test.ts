import { describe, expect, it } from 'vitest';
import { ProblemError } from './api';
import { decode } from './pieces';

/** The layout app/Yard/PropPicture.php states: length, JSON padded to four bytes, positions, normals, piece numbers. */
function encoded(head: object, positions: number[], normals: number[], pieceOf: number[]): ArrayBuffer {
    let text = JSON.stringify(head);
    while (text.length % 4 !== 0) text += ' ';
    const bytes = new TextEncoder().encode(text);
    const buffer = new ArrayBuffer(4 + bytes.length + 4 * positions.length + 2 * normals.length + 2 * pieceOf.length);
    const view = new DataView(buffer);
    view.setUint32(0, bytes.length, true);
    new Uint8Array(buffer).set(bytes, 4);
    let at = 4 + bytes.length;
    for (const v of positions) view.setFloat32((at += 4) - 4, v, true);
    for (const v of normals) view.setInt16((at += 2) - 2, v, true);
    for (const v of pieceOf) view.setUint16((at += 2) - 2, v, true);
    return buffer;
}

describe('decode', () => {
    it('finds places in a picture and weights after the padding', () => {
        const plain = encoded({ vertices: 3, pieces: [], mapped: true, weighed: true }, [0, 0, 0, 1, 0, 0, 0, 1, 0], Array.from({ length: 12 }, () => 0), [0, 0, 0]);
        const tail = new ArrayBuffer(2 + 24 + 3);
        const view = new DataView(tail);
        [0.25, 0.5, 0.75, 1, 0, 0.125].forEach((v, i) => view.setFloat32(2 + 4 * i, v, true));
        new Uint8Array(tail).set([0, 128, 255], 26);
        const all = new Uint8Array(plain.byteLength + tail.byteLength);
        all.set(new Uint8Array(plain));
        all.set(new Uint8Array(tail), plain.byteLength);
        const got = decode(all.buffer, '');
        expect([...got.places!]).toEqual([0.25, 0.5, 0.75, 1, 0, 0.125]);
        expect([...got.weights!]).toEqual([0, 128, 255]);
    });
    it('takes the buffer of a prop apart', () => {
        const pieces = [{ name: 'shard-0001', volume: 2, centre: [0, 0, 0] }];
        const got = decode(encoded({ vertices: 3, pieces, figures: { pieces: 1 }, fitness: null }, [0, 0, 0, 1, 0, 0, 0, 1, 0.5], [0, 0, 32767, 0, 0, 0, 32767, 0, 0, 0, -32767, 32767], [0, 0, 7]), '"tag"');
        expect(got.tag).toBe('"tag"');
        expect(got.pieces).toEqual(pieces);
        expect([...got.positions]).toEqual([0, 0, 0, 1, 0, 0, 0, 1, 0.5]);
        expect([...got.normals].slice(8)).toEqual([0, 0, -32767, 32767]);
        expect([...got.pieceOf]).toEqual([0, 0, 7]);
    });
    it('takes nothing that broke off on its way, wherever it did', () => {
        const whole = encoded({ vertices: 3, pieces: [] }, [0, 0, 0, 1, 0, 0, 0, 1, 0], Array.from({ length: 12 }, () => 0), [0, 0, 0]);
        expect(decode(whole, '').positions).toHaveLength(9);
        for (let length = 0; length < whole.byteLength; length++) expect(() => decode(whole.slice(0, length), '')).toThrow(ProblemError);
    });
});
