import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { READERS, readFrames } from '../data/frames';
import { decode } from '../data/pieces';
import { PieceCloud } from './PieceCloud';

const bytes = (base64: string): ArrayBuffer => Uint8Array.from(atob(base64), (c) => c.charCodeAt(0)).buffer;

describe('a mover the page knows nothing of', () => {
    it.each([['0', '0'], ['2', '0'], ['1', '0.02']])('has its surface drawn where the core has it, divided %s times and %s m thick', (times, thickness) => {
        const sent = JSON.parse(execFileSync('php', ['tests/waved-frame.php', times, thickness], { maxBuffer: 1e8, env: { ...process.env, PHP_INI_SCAN_DIR: `:${process.cwd()}/php` } }).toString()) as { record: string; pieces: string; corners: number[]; normals: number[] };
        const cloud = new PieceCloud(decode(bytes(sent.pieces), ''));
        const [frame] = readFrames(bytes(sent.record), 1);
        const corners = cloud.cornersOf(frame![0]!.points)!;
        expect(corners.length).toBe(sent.corners.length);
        expect(Math.max(...corners.map((v, k) => Math.abs(v - sent.corners[k]!)))).toBeLessThan(4e-6);
        cloud.fly(corners);
        expect(cloud.mesh.geometry.getAttribute('corner').array).toBe(corners);
        const normals = cloud.mesh.geometry.getAttribute('cornerNormal').array;
        expect(Math.max(...Array.from(normals, (v, k) => Math.abs(v - sent.normals[k]!)))).toBeLessThan(1e-3);
    }, 60_000);

    it('writes no kind of stream that has no reader', () => {
        const kinds = [...readFileSync('core/src/Motion/StreamKind.php', 'utf8').matchAll(/case (\w+) = (\d+);/g)].map((m) => Number(m[2]));
        expect(kinds.length).toBeGreaterThan(5);
        expect(Object.keys(READERS).map(Number).sort()).toEqual(kinds.sort());
    });
});
