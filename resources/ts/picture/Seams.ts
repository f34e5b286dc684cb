import { BufferAttribute, BufferGeometry, Color, LineBasicMaterial, LineSegments, Quaternion, Vector3, type Scene } from 'three';
import type { Section } from '../data/mortar';
import { strainColour } from '../parts/sizes';
import type { PieceCloud } from './PieceCloud';

/** How far a section's outline stands out, so that it is seen where it comes to the surface. */
const OUT = 1.03;

/** Corners of a section, as shares of half its sides, in the order its outline is drawn. */
const OUTLINE = [[-OUT, -OUT], [OUT, -OUT], [OUT, -OUT], [OUT, OUT], [OUT, OUT], [-OUT, OUT], [-OUT, OUT], [-OUT, -OUT]] as const;

/** Mortar in the picture: the outlines of the sections it holds, coloured by how much of what they bear they have to bear; what is broken goes with its piece. */
export class Seams {
    private readonly lines = new LineSegments(new BufferGeometry(), new LineBasicMaterial({ vertexColors: true }));
    private drawn: readonly unknown[] = [];

    constructor(private readonly scene: Scene) {
        this.lines.frustumCulled = false;
        this.lines.visible = false;
        scene.add(this.lines);
    }

    hide(): void {
        this.lines.visible = false;
    }

    /**
     * @param broken the frame at which each bond broke, by its two pieces
     * @param standing whether the prop stands as it did before anything broke
     */
    show(cloud: PieceCloud, sections: readonly Section[], broken: ReadonlyMap<string, number>, frame: number, standing: boolean): void {
        this.lines.visible = true;
        const shown = sections.flatMap((s) => {
            const at = broken.get(`${s[0]} ${s[1]}`);
            const gone = at !== undefined && at <= frame;
            return gone || standing ? [[s, gone] as const] : [];
        });
        const positions = new Float32Array(24 * shown.length);
        const place = new Vector3();
        const turn = new Quaternion();
        const p = new Vector3();
        shown.forEach(([s], k) => {
            const [one, , x, y, z, ux, uy, uz, vx, vy, vz] = s as [number, number, number, number, number, number, number, number, number, number, number];
            const centre = cloud.pieces.pieces[one]?.centre;
            if (centre === undefined) return;
            const size = cloud.poseOf(one, place, turn);
            OUTLINE.forEach(([a, b], c) => {
                p.set(x + a * ux + b * vx - centre[0]!, y + a * uy + b * vy - centre[1]!, z + a * uz + b * vz - centre[2]!).multiplyScalar(size).applyQuaternion(turn).add(place);
                p.toArray(positions, 24 * k + 3 * c);
            });
        });
        const geometry = this.lines.geometry;
        geometry.setAttribute('position', new BufferAttribute(positions, 3));
        const key = [sections, shown.length, frame, standing];
        if (key.some((v, i) => v !== this.drawn[i])) {
            this.drawn = key;
            const colours = new Float32Array(24 * shown.length);
            const colour = new Color();
            shown.forEach(([s, gone], k) => {
                const [r, g, b] = strainColour(gone ? 1 : s[12]!);
                colour.setRGB(r / 255, g / 255, b / 255, 'srgb');
                for (let c = 0; c < 8; c++) colour.toArray(colours, 24 * k + 3 * c);
            });
            geometry.setAttribute('color', new BufferAttribute(colours, 3));
        }
        geometry.setDrawRange(0, 8 * shown.length);
    }

    dispose(): void {
        this.scene.remove(this.lines);
        this.lines.geometry.dispose();
        this.lines.material.dispose();
    }
}
