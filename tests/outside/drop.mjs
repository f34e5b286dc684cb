// Drops the same hulls in a general-purpose physics library, and measures overlaps in both results.
import { readFileSync } from 'node:fs';
import RAPIER from '@dimforge/rapier3d-compat';

await RAPIER.init();
const scene = JSON.parse(readFileSync(process.argv[2], 'utf8'));
const world = new RAPIER.World({ x: 0, y: -9.80665, z: 0 });
world.timestep = 1 / 24 / scene.searches;
world.integrationParameters.numSolverIterations = scene.steps;
world.createCollider(RAPIER.ColliderDesc.cuboid(50, 0.5, 50).setTranslation(0, -0.5, 0).setFriction(scene.friction).setRestitution(scene.bounce));
const bodies = scene.hulls.map((points, i) => {
    const [x, y, z] = scene.poses[i];
    const body = world.createRigidBody(RAPIER.RigidBodyDesc.dynamic().setTranslation(x, y, z));
    world.createCollider(RAPIER.ColliderDesc.convexHull(new Float32Array(points)).setDensity(scene.density).setFriction(scene.friction).setRestitution(scene.bounce), body);
    return body;
});
const begun = performance.now();
for (let f = 0; f < scene.frames * scene.searches; f++) world.step();
const seconds = (performance.now() - begun) / 1000;
const theirs = bodies.map((b) => {
    const t = b.translation();
    const q = b.rotation();
    return [t.x, t.y, t.z, q.x, q.y, q.z, q.w];
});

function overlaps(poses) {
    const shapes = scene.hulls.map((p) => new RAPIER.ConvexPolyhedron(new Float32Array(p)));
    const reach = scene.hulls.map((p) => Math.max(...Array.from({ length: p.length / 3 }, (_, i) => Math.hypot(p[3 * i], p[3 * i + 1], p[3 * i + 2]))));
    const place = poses.map(([x, y, z, a, b, c, d]) => [{ x, y, z }, { x: a, y: b, z: c, w: d }]);
    const depths = [];
    for (let i = 0; i < poses.length; i++) {
        for (let j = i + 1; j < poses.length; j++) {
            const between = Math.hypot(poses[i][0] - poses[j][0], poses[i][1] - poses[j][1], poses[i][2] - poses[j][2]);
            if (between > reach[i] + reach[j]) continue;
            // The query now and then errs widely in one order of the two; an overlap must show in both.
            const c = shapes[i].contactShape(...place[i], shapes[j], ...place[j], 0);
            const d = shapes[j].contactShape(...place[j], shapes[i], ...place[i], 0);
            if (c && d && c.distance < 0 && d.distance < 0) depths.push(Math.min(-c.distance, -d.distance));
        }
    }
    depths.sort((a, b) => a - b);
    const n = poses.length;
    const middle = [0, 1, 2].map((a) => poses.reduce((sum, p) => sum + p[a], 0) / n);
    const spread = Math.sqrt(poses.reduce((sum, p) => sum + (p[0] - middle[0]) ** 2 + (p[2] - middle[2]) ** 2, 0) / n);
    return { height: middle[1], spread, pairs: depths.length, p95: depths[Math.floor(0.95 * (depths.length - 1))] ?? 0, worst: depths.at(-1) ?? 0 };
}
console.log(JSON.stringify({ seconds, ours: overlaps(scene.ours), theirs: overlaps(theirs) }));
