// Drops the same pieces in a general-purpose physics library, and measures overlaps in both results. A piece is one hull, or a list of them.
import { readFileSync } from 'node:fs';
import RAPIER from '@dimforge/rapier3d-compat';

await RAPIER.init();
const scene = JSON.parse(readFileSync(process.argv[2], 'utf8'));
const world = new RAPIER.World({ x: 0, y: -9.80665, z: 0 });
world.timestep = 1 / 24 / scene.searches;
world.integrationParameters.numSolverIterations = scene.steps;
world.createCollider(RAPIER.ColliderDesc.cuboid(50, 0.5, 50).setTranslation(0, -0.5, 0).setFriction(scene.friction).setRestitution(scene.bounce));
const pieces = scene.hulls.map((p) => (Array.isArray(p[0]) ? p : [p]));
const bodies = pieces.map((parts, i) => {
    const [x, y, z, a = 0, b = 0, c = 0, d = 1] = scene.poses[i];
    const body = world.createRigidBody(RAPIER.RigidBodyDesc.dynamic().setTranslation(x, y, z).setRotation({ x: a, y: b, z: c, w: d }));
    for (const points of parts) {
        const hull = RAPIER.ColliderDesc.convexHull(new Float32Array(points));
        if (hull) world.createCollider(hull.setDensity(scene.density).setFriction(scene.friction).setRestitution(scene.bounce), body);
    }
    body.setLinvel({ x: 0, y: -(scene.speed ?? 0), z: 0 }, true);
    return body;
});
const begun = performance.now();
let settled = null;
for (let f = 0; f < scene.frames; f++) {
    for (let s = 0; s < scene.searches; s++) world.step();
    // What sleeps, or would if its neighbours let it: below a centimetre a second.
    const moving = bodies.filter((b) => !b.isSleeping() && Math.hypot(b.linvel().x, b.linvel().y, b.linvel().z) > 0.01).length;
    settled = moving <= 0.01 * bodies.length ? (settled ?? f + 1) : null;
}
const seconds = (performance.now() - begun) / 1000;
const theirs = bodies.map((b) => {
    const t = b.translation();
    const q = b.rotation();
    return [t.x, t.y, t.z, q.x, q.y, q.z, q.w];
});

function overlaps(poses) {
    const shapes = pieces.map((parts) => parts.map((p) => new RAPIER.ConvexPolyhedron(new Float32Array(p))));
    const reach = pieces.map((parts) => parts.flat()).map((p) => Math.max(...Array.from({ length: p.length / 3 }, (_, i) => Math.hypot(p[3 * i], p[3 * i + 1], p[3 * i + 2]))));
    const place = poses.map(([x, y, z, a, b, c, d]) => [{ x, y, z }, { x: a, y: b, z: c, w: d }]);
    const depths = [];
    for (let i = 0; i < poses.length; i++) {
        for (let j = i + 1; j < poses.length; j++) {
            const between = Math.hypot(poses[i][0] - poses[j][0], poses[i][1] - poses[j][1], poses[i][2] - poses[j][2]);
            if (between > reach[i] + reach[j]) continue;
            let deepest = 0;
            for (const a of shapes[i]) {
                for (const b of shapes[j]) {
                    // The query now and then errs widely in one order of the two; an overlap must show in both.
                    const c = a.contactShape(...place[i], b, ...place[j], 0);
                    const d = b.contactShape(...place[j], a, ...place[i], 0);
                    if (c && d && c.distance < 0 && d.distance < 0) deepest = Math.max(deepest, Math.min(-c.distance, -d.distance));
                }
            }
            if (deepest > 0) depths.push(deepest);
        }
    }
    depths.sort((a, b) => a - b);
    const n = poses.length;
    const middle = [0, 1, 2].map((a) => poses.reduce((sum, p) => sum + p[a], 0) / n);
    const spread = Math.sqrt(poses.reduce((sum, p) => sum + (p[0] - middle[0]) ** 2 + (p[2] - middle[2]) ** 2, 0) / n);
    return { height: middle[1], spread, pairs: depths.length, p95: depths[Math.floor(0.95 * (depths.length - 1))] ?? 0, worst: depths.at(-1) ?? 0 };
}
console.log(JSON.stringify({ seconds, settled, ours: overlaps(scene.ours), theirs: overlaps(theirs) }));
