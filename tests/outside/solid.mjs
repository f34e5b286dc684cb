// Asks the Manifold library of every OBJ in a folder whether it is a solid, and how large.
import { readdirSync, readFileSync } from 'node:fs';
import Module from 'manifold-3d';

const wasm = await Module();
wasm.setup();
const rows = readdirSync(process.argv[2]).filter((f) => f.endsWith('.obj')).sort().map((f) => {
    const points = [];
    const faces = [];
    for (const line of readFileSync(`${process.argv[2]}/${f}`, 'utf8').split('\n')) {
        const [word, ...rest] = line.split(' ');
        if (word === 'v') points.push(...rest.map(Number));
        if (word === 'f') faces.push(...rest.map((n) => Number(n) - 1));
    }
    try {
        const m = new wasm.Manifold(new wasm.Mesh({ numProp: 3, vertProperties: new Float32Array(points), triVerts: new Uint32Array(faces) }));
        const status = m.status();
        return { status: status === 'NoError' || status?.value === 0 || status === 0 ? 'ok' : String(status?.value ?? status), volume: m.volume() };
    } catch (e) {
        return { status: String(e.message ?? e), volume: 0 };
    }
});
console.log(JSON.stringify(rows));
