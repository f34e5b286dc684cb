import { BufferAttribute, BufferGeometry, Color, InstancedMesh, Matrix4, MeshStandardMaterial, Quaternion, Vector3, type Object3D } from 'three';
import { courseAt, looksOf, type ChipFrame, type ChipShape } from '../data/dust';
import type { Prop } from '../data/document';
import { usePieces, type PropPieces } from '../data/pieces';

/** Chips drawn while the picture moves; all of them once it stands still. */
const WHILE_MOVING = 15_000;

/** The chips of one kind that one prop gives off: instances of one small body. */
class ChipKind {
    private mesh: InstancedMesh<BufferGeometry, MeshStandardMaterial> | null = null;
    private of: unknown = null;

    constructor(private readonly scene: Object3D) {}

    /** @param of what the geometry is made of: made anew where that changes */
    private take(geometry: () => BufferGeometry, of: unknown, count: number): InstancedMesh<BufferGeometry, MeshStandardMaterial> {
        if (this.mesh !== null && this.of === of && this.mesh.instanceMatrix.count >= count) return this.mesh;
        this.dispose();
        this.of = of;
        this.mesh = new InstancedMesh(geometry(), new MeshStandardMaterial({ roughness: 0.9, metalness: 0, flatShading: true }), Math.ceil(1.3 * count) + 16);
        this.mesh.frustumCulled = false;
        this.mesh.castShadow = this.mesh.receiveShadow = true;
        this.scene.add(this.mesh);
        return this.mesh;
    }

    show(frame: ChipFrame, of: number, geometry: () => BufferGeometry, source: unknown, prop: Prop, step: number): void {
        const looks = looksOf(prop, of);
        const own: number[] = [];
        for (let k = 0; k < frame.count; k += step) if (((frame.chips[8 * k + 3]! >> 8) & 3) === of) own.push(k);
        if (own.length === 0) {
            this.hide();
            return;
        }
        const mesh = this.take(geometry, source, own.length);
        const [from, to] = [new Color(looks.colour), new Color(looks.turns === '' ? looks.colour : looks.turns)];
        own.forEach((k, n) => {
            const bits = frame.chips[8 * k + 3]!;
            const age = (bits & 255) / 255;
            const across = frame.largest * ((bits >> 10) / 63) ** 2 * courseAt(looks.sizes, age) * courseAt(looks.shows, age) ** (1 / 3);
            for (let a = 0; a < 3; a++) PLACE.setComponent(a, frame.box[a]! + (frame.box[a + 3]! * frame.chips[8 * k + a]!) / 65535);
            TURN.set(signed(frame.chips[8 * k + 4]!), signed(frame.chips[8 * k + 5]!), signed(frame.chips[8 * k + 6]!), signed(frame.chips[8 * k + 7]!)).normalize();
            mesh.setMatrixAt(n, MATRIX.compose(PLACE, TURN, SIZE.setScalar(across)));
            mesh.setColorAt(n, COLOUR.copy(from).lerp(to, looks.turns === '' ? 0 : courseAt(looks.turning, age)));
        });
        mesh.count = own.length;
        mesh.instanceMatrix.needsUpdate = true;
        if (mesh.instanceColor) mesh.instanceColor.needsUpdate = true;
        mesh.visible = true;
    }

    hide(): void {
        if (this.mesh) this.mesh.visible = false;
    }

    dispose(): void {
        if (this.mesh === null) return;
        this.scene.remove(this.mesh);
        this.mesh.geometry.dispose();
        this.mesh.material.dispose();
        this.mesh.dispose();
        this.mesh = null;
    }
}

/** All chips of one prop. */
export class ChipCloud {
    private readonly kinds = new Map<number, ChipKind>();
    private shown: unknown[] = [];

    constructor(private readonly scene: Object3D) {}

    /**
     * @param shapes by name, as the catalogue has them
     * @param moving whether the picture moves: then a fair share of them is drawn
     */
    show(frame: ChipFrame | null, prop: Prop, shapes: Readonly<Record<string, ChipShape>>, moving: boolean): void {
        const step = moving && frame !== null ? Math.ceil(frame.count / WHILE_MOVING) || 1 : 1;
        const pieces = usePieces.getState().byProp;
        const key = [frame, prop.dust, step, shapes, ...(prop.dust ?? []).map((d) => pieces[String(d.values.prop ?? '')])];
        if (key.length === this.shown.length && key.every((part, k) => part === this.shown[k])) return;
        this.shown = key;
        if (frame === null) this.kinds.forEach((kind) => kind.hide());
        (frame === null ? [] : (prop.dust ?? [])).forEach((dust, of) => {
            const name = String(dust.values.shape ?? 'grain');
            const like = name === 'prop' ? pieces[String(dust.values.prop ?? '')] : undefined;
            const shape = shapes[name];
            const kind = this.kinds.get(of) ?? new ChipKind(this.scene);
            this.kinds.set(of, kind);
            if (like !== undefined) kind.show(frame!, of, () => likeProp(like), like, prop, step);
            else if (shape !== undefined) kind.show(frame!, of, () => ofShape(shape), shape, prop, step);
            else kind.hide();
        });
    }

    dispose(): void {
        this.kinds.forEach((k) => k.dispose());
        this.kinds.clear();
    }
}

const signed = (bits: number): number => (bits > 32767 ? bits - 65536 : bits);

function ofShape(shape: ChipShape): BufferGeometry {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(Float32Array.from(shape.faces.flatMap((p) => shape.points.slice(3 * p, 3 * p + 3))), 3));
    geometry.computeVertexNormals();
    return geometry;
}

/** A prop about its middle, its largest extent 1. */
function likeProp({ positions, pieceOf, pieces }: PropPieces): BufferGeometry {
    const all = pieces.reduce((sum, p) => sum + p.volume, 0) || 1;
    const middle = [0, 1, 2].map((a) => pieces.reduce((sum, p) => sum + p.centre[a]! * p.volume, 0) / all);
    const out = new Float32Array(positions.length);
    const [low, high] = [[Infinity, Infinity, Infinity], [-Infinity, -Infinity, -Infinity]];
    for (let v = 0; v < pieceOf.length; v++) {
        for (let a = 0; a < 3; a++) {
            const at = (out[3 * v + a] = positions[3 * v + a]! + pieces[pieceOf[v]!]!.centre[a]! - middle[a]!);
            low[a] = Math.min(low[a]!, at);
            high[a] = Math.max(high[a]!, at);
        }
    }
    const size = Math.max(...low.map((l, a) => high[a]! - l)) || 1;
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(out.map((v) => v / size), 3));
    geometry.computeVertexNormals();
    return geometry;
}

const MATRIX = new Matrix4();
const PLACE = new Vector3();
const TURN = new Quaternion();
const SIZE = new Vector3();
const COLOUR = new Color();
