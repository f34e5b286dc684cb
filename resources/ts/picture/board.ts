import { Quaternion, Vector3 } from 'three';
import type { Plan, PropPieces, Triple } from '../data/pieces';
import { turnOf, type Pose } from '../data/pose';

/** The plane lines are drawn on: that of the prop's plan, at the side it is looked at from. */
export interface Board {
    toScene: (p: readonly [number, number]) => Triple;
    /** Where a line of sight meets the board, in metres along its two directions; null where it never does. */
    fromSight: (from: Triple, towards: Triple) => [number, number] | null;
    /** Corners of the prop's box on the board. */
    box: { low: [number, number]; high: [number, number] };
}

export function boardOf(plan: Plan, pieces: PropPieces, pose: Pose): Board {
    const [u, v, w] = [plan.u, plan.v, plan.w].map((a) => new Vector3(...a)) as [Vector3, Vector3, Vector3];
    const low: [number, number] = [Infinity, Infinity];
    const high: [number, number] = [-Infinity, -Infinity];
    let front = -Infinity;
    const p = new Vector3();
    for (let i = 0; i < pieces.pieceOf.length; i++) {
        const c = pieces.pieces[pieces.pieceOf[i]!]!.centre;
        p.set(pieces.positions[3 * i]! + c[0], pieces.positions[3 * i + 1]! + c[1], pieces.positions[3 * i + 2]! + c[2]);
        [u, v].forEach((d, k) => {
            low[k] = Math.min(low[k]!, d.dot(p));
            high[k] = Math.max(high[k]!, d.dot(p));
        });
        front = Math.max(front, w.dot(p));
    }
    const turn = turnOf(pose.turn);
    const back = new Quaternion().copy(turn).invert();
    const place = new Vector3(...pose.position);
    return {
        box: { low, high },
        toScene: ([a, b]) => u.clone().multiplyScalar(a).addScaledVector(v, b).addScaledVector(w, front).applyQuaternion(turn).add(place).toArray(),
        fromSight: (from, towards) => {
            const o = new Vector3(...from).sub(place).applyQuaternion(back);
            const d = new Vector3(...towards).applyQuaternion(back);
            const steep = w.dot(d);
            if (Math.abs(steep) < 1e-6) return null;
            o.addScaledVector(d, (front - w.dot(o)) / steep);
            const round = (n: number) => Math.round(n * 10000) / 10000;
            return [round(u.dot(o)), round(v.dot(o))];
        },
    };
}
