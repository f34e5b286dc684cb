import { BufferGeometry, Float32BufferAttribute, LineBasicMaterial, LineSegments, Vector3, type Scene } from 'three';
import type { Seat } from '../data/camera';

/** The shot's camera as it stands in the scene: what it sees, drawn as far as a part of the way to what it looks at. */
export class CameraMark {
    private readonly lines = new LineSegments(new BufferGeometry(), new LineBasicMaterial({ color: '#1d2327' }));

    constructor(private readonly scene: Scene) {
        this.lines.frustumCulled = false;
        this.lines.visible = false;
        scene.add(this.lines);
    }

    hide(): void {
        this.lines.visible = false;
    }

    stand(seat: Seat, theme: 'day' | 'night'): void {
        const at = new Vector3(...seat.position);
        const way = new Vector3(...seat.target).sub(at);
        const far = 0.22 * Math.max(way.length(), 1e-6);
        const back = way.clone().normalize().negate();
        const right = new Vector3(0, 1, 0).cross(back);
        if (right.lengthSq() < 1e-12) right.set(1, 0, 0);
        right.normalize();
        const up = back.clone().cross(right);
        const high = far * Math.tan((seat.height * Math.PI) / 360);
        const wide = high * seat.aspect;
        const corner = (x: number, y: number) => at.clone().addScaledVector(back, -far).addScaledVector(right, x * wide).addScaledVector(up, y * high);
        const corners = [corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1)];
        const tip = at.clone().addScaledVector(back, -far).addScaledVector(up, 1.45 * high);
        const points = corners.flatMap((c, k) => [at, c, c, corners[(k + 1) % 4]!]).concat([corner(-0.4, 1.1), tip, tip, corner(0.4, 1.1)]);
        this.lines.geometry.setAttribute('position', new Float32BufferAttribute(points.flatMap((p) => p.toArray()), 3));
        this.lines.material.color.set(theme === 'day' ? '#1d2327' : '#e6e3db');
        this.lines.visible = true;
    }

    dispose(): void {
        this.scene.remove(this.lines);
        this.lines.geometry.dispose();
        this.lines.material.dispose();
    }
}
