import { Vector3 } from 'three';
import type { Camera, Plate, ShotDocument, Value } from './document';
import { setValues } from './keys';
import { currentMoments } from './moments';
import { useShot } from './shot';
import { valueAt, type Moments } from './track';
import { useUi } from './ui';

/** The shot's camera at a frame. */
export interface Seat {
    position: [number, number, number];
    target: [number, number, number];
    /** Degrees from the lower to the upper edge of its picture. */
    height: number;
    /** Width by height of its picture. */
    aspect: number;
    /** Degrees by which it leans to the right. */
    roll: number;
}

function seatAt(camera: Camera, frame: number, moments: Moments): Seat {
    const at = (values: readonly Value[]) => values.map((v) => valueAt(v, frame, moments)) as [number, number, number];
    const aspect = camera.shape[0] / camera.shape[1];
    return { position: at(camera.position), target: at(camera.target), aspect, roll: valueAt(camera.roll ?? 0, frame, moments), height: (360 / Math.PI) * Math.atan((0.5 * valueAt(camera.film, frame, moments)) / aspect / valueAt(camera.focal, frame, moments)) };
}

/** The picture of the plate that belongs to a frame: its own, or the last before it; null before the first. */
export function plateAt(plate: Plate, frame: number): string | null {
    const first = plate.frames[0]!.frame;
    const wanted = first + frame - (plate.later ?? 0);
    let asset: string | null = null;
    for (const f of plate.frames) {
        if (f.frame > wanted) break;
        asset = f.asset;
    }
    return asset;
}

/** Where the picture is looked at from, what at, and the degrees it sees from low to high; told by whatever draws it. */
export const look = { now: () => ({ position: new Vector3(0, 1.6, 5), target: new Vector3(), height: 32 }) };

/** A camera that sees what is seen now. */
export function addCamera(): void {
    const { position, target, height } = look.now();
    const tidy = (v: Vector3) => v.toArray().map((n) => Number(n.toPrecision(5))) as [number, number, number];
    const focal = Number((0.5 * 36 * (9 / 16) / Math.tan((height * Math.PI) / 360)).toPrecision(3));
    void useShot.getState().edit('Add a camera', [{ op: 'add', path: '/camera', value: { position: tidy(position), target: tidy(target), focal, film: 36, shape: [1920, 1080] } satisfies Camera }]);
    useUi.getState().set({ view: { name: 'camera', asked: useUi.getState().view.asked + 1 } });
}

/** Takes over where the artist has moved the camera while looking through it. */
export function moveCamera(position: Vector3, target: Vector3): void {
    const frame = useUi.getState().frame;
    const tidy = (v: number) => Number(v.toPrecision(7));
    setValues('Move the camera', [':camera/position', ':camera/target'].flatMap((lane, k) => (k === 0 ? position : target).toArray().map((v, axis) => ({ lane, axis, frame, value: tidy(v) }))));
}

export function currentSeat(document: ShotDocument): Seat | null {
    return document.camera ? seatAt(document.camera, useUi.getState().frame, currentMoments()) : null;
}
