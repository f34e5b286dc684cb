import { useEffect, useRef } from 'react';
import type { PropPieces } from '../data/pieces';

/** Pixels a side. */
const SIDE = 26;

/** Triangles drawn at most: of more, every so manieth. */
const MOST = 8000;

/** The way it is looked at, and those to the right and up from there. */
const TOWARDS = [0.55, 0.4, 0.73] as const;
const RIGHT = [0.8, 0, -0.6] as const;
const UP = [-0.24, 0.92, -0.32] as const;

type Three = readonly [number, number, number];

const dot = (a: Three, b: Three) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** A prop as small as a stamp, in its own colour: enough to tell it from the others. */
export function PropFace({ pieces, colour }: { pieces: PropPieces | undefined; colour: string }) {
    const canvas = useRef<HTMLCanvasElement>(null);
    useEffect(() => {
        const g = canvas.current?.getContext('2d');
        if (!g || !pieces) return;
        const k = window.devicePixelRatio || 1;
        canvas.current!.width = canvas.current!.height = SIDE * k;
        const faces = facesOf(pieces);
        const us = faces.flatMap((f) => f.corners.map((c) => c[0]));
        const vs = faces.flatMap((f) => f.corners.map((c) => c[1]));
        const [low, left] = [Math.min(...vs), Math.min(...us)];
        const size = Math.max(Math.max(...us) - left, Math.max(...vs) - low, 1e-9);
        const scale = (0.94 * SIDE * k) / size;
        const x = (u: number) => (SIDE * k) / 2 + scale * (u - (left + Math.max(...us)) / 2);
        const y = (v: number) => (SIDE * k) / 2 - scale * (v - (low + Math.max(...vs)) / 2);
        const [r, gr, b] = [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16)) as [number, number, number];
        for (const { corners, light } of faces) {
            g.fillStyle = g.strokeStyle = `rgb(${[r, gr, b].map((c) => Math.round(Math.min(255, c * light))).join(' ')})`;
            g.beginPath();
            corners.forEach(([u, v], n) => (n === 0 ? g.moveTo(x(u), y(v)) : g.lineTo(x(u), y(v))));
            g.closePath();
            g.fill();
            g.stroke();
        }
    }, [pieces, colour]);
    if (!pieces) return <span className="size-[26px]" style={{ background: colour }} />;
    return <canvas ref={canvas} aria-hidden className="size-[26px]" />;
}

/** Its faces as they are seen, the farthest first. */
function facesOf({ positions, normals, pieceOf, pieces, vertices }: PropPieces): { corners: [number, number][]; light: number }[] {
    const normalOf = (f: number): Three => [normals[12 * f]! / 32767, normals[12 * f + 1]! / 32767, normals[12 * f + 2]! / 32767];
    // What is laid open lies within, unless there is nothing else, as of a core its flakes have left; what looks away is not seen.
    const towards = Array.from({ length: vertices / 3 }, (_, f) => f).filter((f) => dot(normalOf(f), TOWARDS) > 0);
    const outer = towards.filter((f) => normals[12 * f + 3]! <= 16000);
    const seen = outer.length > 0 ? outer : towards;
    const step = Math.max(1, Math.ceil(seen.length / MOST));
    const out: { corners: [number, number][]; light: number; far: number }[] = [];
    for (let k = 0; k < seen.length; k += step) {
        const f = seen[k]!;
        const normal = normalOf(f);
        const centre = pieces[pieceOf[3 * f]!]!.centre;
        let far = 0;
        const corners = [0, 1, 2].map((c): [number, number] => {
            const at = 3 * (3 * f + c);
            const p: Three = [positions[at]! + centre[0], positions[at + 1]! + centre[1], positions[at + 2]! + centre[2]];
            far += dot(p, TOWARDS);
            return [dot(p, RIGHT), dot(p, UP)];
        });
        out.push({ corners, light: 0.5 + 0.6 * Math.max(0, 0.25 * normal[0] + 0.85 * normal[1] + 0.45 * normal[2]), far });
    }
    return out.sort((a, b) => a.far - b.far);
}
