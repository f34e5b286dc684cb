import { Vector3 } from 'three';

/** Share of the free area that what is framed takes, along the side that binds. */
export const FILL = 0.78;

export interface Fit {
    /** Where the camera stands, and what it turns about. */
    position: Vector3;
    target: Vector3;
}

/**
 * Where to stand to see points as large as they fit. The picture's middle is taken to be that of its free area.
 *
 * @param points x, y, z of each
 * @param from direction from what is looked at to the camera
 * @param halfWidth tangent of half the angle that may be filled, across
 * @param halfHeight the same, upwards
 */
export function fit(points: Float32Array, from: Vector3, halfWidth: number, halfHeight: number): Fit {
    const out = from.clone().normalize();
    const right = new Vector3(0, 1, 0).cross(out);
    if (right.lengthSq() < 1e-12) right.set(1, 0, 0);
    right.normalize();
    const up = out.clone().cross(right);
    // Each point keeps the camera at least so far back; in camera axes the farthest back of all decides.
    let [xHigh, xLow, yHigh, yLow, near, far] = [-Infinity, Infinity, -Infinity, Infinity, -Infinity, Infinity];
    for (let i = 0; i < points.length; i += 3) {
        const [px, py, pz] = [points[i]!, points[i + 1]!, points[i + 2]!];
        const x = px * right.x + py * right.y + pz * right.z;
        const y = px * up.x + py * up.y + pz * up.z;
        const z = px * out.x + py * out.y + pz * out.z;
        xHigh = Math.max(xHigh, x + halfWidth * z);
        xLow = Math.min(xLow, x - halfWidth * z);
        yHigh = Math.max(yHigh, y + halfHeight * z);
        yLow = Math.min(yLow, y - halfHeight * z);
        near = Math.max(near, z);
        far = Math.min(far, z);
    }
    // A single point, or a line of sight, has no size to fill with.
    const least = 1e-6 * (1 + Math.abs(near));
    const z = Math.max((xHigh - xLow) / (2 * halfWidth), (yHigh - yLow) / (2 * halfHeight), near + least);
    const at = (x: number, y: number, depth: number) => new Vector3().addScaledVector(right, x).addScaledVector(up, y).addScaledVector(out, depth);
    const [x, y] = [(xHigh + xLow) / 2, (yHigh + yLow) / 2];
    return { position: at(x, y, z), target: at(x, y, Math.min((near + far) / 2, z - least)) };
}

/** The largest of 1, 2 and 5 times a power of ten that is not above a length, or the next larger one where `above`. */
export function roundStep(length: number, above = false): number {
    const decade = 10 ** Math.floor(Math.log10(length) + 1e-9);
    const steps = [1, 2, 5, 10].map((k) => k * decade);
    return above ? steps.find((s) => s >= length * (1 - 1e-9))! : steps.filter((s) => s <= length * (1 + 1e-9)).pop()!;
}

/** The step after one of 1, 2 and 5: 1 → 10, 2 → 10, 5 → 50, so that every heavy line is also a fine one. */
export function heavyStep(step: number): number {
    return Math.round(step / 10 ** Math.floor(Math.log10(step) + 1e-9)) === 2 ? step * 5 : step * 10;
}

/** `count` directions spread evenly over the sphere, on a spiral. */
export function directions(count: number): Vector3[] {
    const golden = Math.PI * (3 - Math.sqrt(5));
    return Array.from({ length: count }, (_, k) => {
        const y = 1 - (2 * k + 1) / count;
        const r = Math.sqrt(1 - y * y);
        return new Vector3(r * Math.cos(golden * k), y, r * Math.sin(golden * k));
    });
}
