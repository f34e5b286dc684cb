// Cuts a mesh with the hulls of its shards, one by one, by a general-purpose boolean library; prints the seconds.
import { readFileSync } from 'node:fs';
import Module from 'manifold-3d';

const wasm = await Module();
wasm.setup();
const { points, faces, cells } = JSON.parse(readFileSync(process.argv[2], 'utf8'));
const mesh = new wasm.Manifold(new wasm.Mesh({ numProp: 3, vertProperties: new Float32Array(points), triVerts: new Uint32Array(faces) }));
const begun = performance.now();
let volume = 0;
for (const cell of cells) volume += wasm.Manifold.hull(cell).intersect(mesh).volume();
console.log(JSON.stringify({ seconds: (performance.now() - begun) / 1000, volume }));
