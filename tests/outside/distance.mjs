// Distances between pairs of placed hulls, negative where they overlap.
import { readFileSync } from 'node:fs';
import RAPIER from '@dimforge/rapier3d-compat';

await RAPIER.init();
const place = ([x, y, z, a, b, c, d]) => [{ x, y, z }, { x: a, y: b, z: c, w: d }];
const out = JSON.parse(readFileSync(process.argv[2], 'utf8')).map(([a, b]) => {
    const first = new RAPIER.ConvexPolyhedron(new Float32Array(a.hull));
    const second = new RAPIER.ConvexPolyhedron(new Float32Array(b.hull));
    return first.contactShape(...place(a.pose), second, ...place(b.pose), 10).distance;
});
console.log(JSON.stringify(out));
