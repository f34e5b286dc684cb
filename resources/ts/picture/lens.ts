import { create } from 'zustand';
import type { Stroke } from '../data/brush';
import type { Triple } from '../data/pieces';
import { inScene, type Pose } from '../data/pose';
import { within } from './grips';
import { roundStep } from './fit';

/** How the picture is looked at, for what is drawn over it. */
interface Lens {
    /** Rises whenever the camera or the size of the picture has changed. */
    seen: number;
    /** Pixels from the left and the top for a point of the scene. */
    project: (p: Triple) => [number, number];
    /** The line of sight through a pixel: where it starts, and its direction. */
    cast: (x: number, y: number) => { from: Triple; towards: Triple };
    /** Where that line first meets a prop, or null where it misses. */
    surface: (prop: string, x: number, y: number) => Triple | null;
    /** The place there and the way the surface looks, in the prop's own coordinates. */
    foot: (prop: string, x: number, y: number) => { at: Triple; normal: Triple; face: number; piece: number } | null;
    /** Shows a dab of a stroke on the map that is shown, until it is worked out. */
    paint: (prop: string, stroke: Stroke, dab: readonly number[]) => void;
    /** Faces about a place that look its way. */
    facesNear: (prop: string, at: Triple, normal: Triple, size: number) => number[];
    /** Shows just these faces as full, until the map is worked out. */
    mark: (prop: string, faces: ReadonlySet<number>) => void;
    /** The highest point of a prop as it stands, or null where it is not there. */
    top: (prop: string) => Triple | null;
    /** The weight shown there, 0…1. */
    weight: (prop: string, x: number, y: number) => number | null;
    /** Pixels a metre takes at the point looked at. */
    metre: number;
    /** Where the picture of the shot's camera lies while it is looked through: left, top, width and height, in pixels. */
    frame: readonly [number, number, number, number] | null;
}

export const useLens = create<Lens>(() => ({ seen: 0, project: () => [0, 0], cast: () => ({ from: [0, 0, 0], towards: [0, 0, -1] }), surface: () => null, foot: () => null, paint: () => {}, facesNear: () => [], mark: () => {}, top: () => null, weight: () => null, metre: 100, frame: null }));

/** Metres, rounded to what can be told apart in the picture: 1, 2 or 5 of a decimal place, finer than a pixel. */
export function snapped(value: number, pixelsPerMetre: number): number {
    const step = roundStep(Math.min(0.5 / pixelsPerMetre, 0.5));
    return Number((Math.round(value / step) * step).toPrecision(12)) + 0;
}

/** Where a point goes for a pixel of the picture: in the plane through it that faces the eye, or what is dragged sideways would come closer. */
export function onPlane(pose: Pose, at: readonly number[], x: number, y: number): Triple {
    const { cast, project, metre } = useLens.getState();
    const { from, towards } = cast(x, y);
    const was = inScene(pose, at);
    const straight = cast(...project(was)).towards;
    const far = dot([was[0] - from[0], was[1] - from[1], was[2] - from[2]], straight) / Math.max(1e-6, dot(towards, straight));
    return within(pose, along(from, towards, far)).map((v) => snapped(v, metre)) as Triple;
}

export function along(p: Triple, way: Triple, d: number): Triple {
    return [p[0] + d * way[0], p[1] + d * way[1], p[2] + d * way[2]];
}

export function unit(v: Triple): Triple {
    const l = Math.hypot(...v) || 1;
    return [v[0] / l, v[1] / l, v[2] / l];
}

export function cross(a: Triple, b: Triple): Triple {
    return [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
}

function dot(a: Triple, b: Triple): number {
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}
