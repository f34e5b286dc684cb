// Distances from points to a moving mesh, place by place, and how long that takes: {mesh: {x, y, z, faces}, points: {x, y, z}, moves: [[x, y, z], …]}.
import { readFileSync } from 'node:fs';
import { BufferAttribute, BufferGeometry, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';

const { mesh, points, moves } = JSON.parse(readFileSync(process.argv[2], 'utf8'));
const geometry = new BufferGeometry();
geometry.setAttribute('position', new BufferAttribute(new Float64Array(mesh.x.flatMap((x, i) => [x, mesh.y[i], mesh.z[i]])), 3));
geometry.setIndex(mesh.faces);
const built = performance.now();
const tree = new MeshBVH(geometry, { targetLeafSize: 4 });
const build = performance.now() - built;
const at = new Vector3();
const hit = { point: new Vector3() };
let distances = [];
const times = [];
for (const [dx, dy, dz] of moves) {
    const begun = performance.now();
    distances = [];
    for (let i = 0; i < points.x.length; i++) {
        at.set(points.x[i] - dx, points.y[i] - dy, points.z[i] - dz);
        distances.push(tree.closestPointToPoint(at, hit).distance);
    }
    times.push((performance.now() - begun) / 1000);
}
console.log(JSON.stringify({ build: build / 1000, seconds: Math.min(...times), distances }));
