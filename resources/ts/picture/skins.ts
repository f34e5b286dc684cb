/**
 * What materials look like near and far: colour, roughness and fine relief as functions of the place in the prop's own
 * coordinates, so that nothing swims when a piece moves and both sides of a crack agree.
 *
 * Lengths are those of things half a metre across; what is ten times as large gets ten times the grain, in whole
 * decades, so that a bolt and a wall both look worked and props of like size share one grain.
 */

interface Skin {
    /** GLSL: `void skin(inout vec3 c, inout float rough, inout float metal, vec3 q, vec3 fibre, float broken, float px)`. */
    paint: string;
    /** GLSL: metres of relief at a place, `float relief(vec3 q, vec3 fibre, float broken, float px)`. */
    relief: string;
    /** Fibres run along the longest side, layers lie across the shortest. */
    along: 'longest' | 'thinnest';
}

const NOISE = /* glsl */ `
    uint scrambled(uint x) { x ^= x >> 16; x *= 0x7feb352du; x ^= x >> 15; x *= 0x846ca68bu; x ^= x >> 16; return x; }
    float lattice(ivec3 c) { return float(scrambled(uint(c.x) * 0x8da6b343u + uint(c.y) * 0xd8163841u + uint(c.z) * 0xcb1ab31fu) >> 8) * (1.0 / 16777216.0); }
    float grain(vec3 p) {
        vec3 whole = floor(p);
        ivec3 i = ivec3(whole);
        vec3 f = p - whole;
        f = f * f * (3.0 - 2.0 * f);
        return mix(
            mix(mix(lattice(i), lattice(i + ivec3(1, 0, 0)), f.x), mix(lattice(i + ivec3(0, 1, 0)), lattice(i + ivec3(1, 1, 0)), f.x), f.y),
            mix(mix(lattice(i + ivec3(0, 0, 1)), lattice(i + ivec3(1, 0, 1)), f.x), mix(lattice(i + ivec3(0, 1, 1)), lattice(i + ivec3(1, 1, 1)), f.x), f.y), f.z);
    }
    // Octaves finer than a pixel would only flicker: they give way to their mean.
    float cloud(vec3 p, float px, int octaves) {
        float sum = 0.0, share = 0.5, all = 0.0;
        for (int k = 0; k < octaves; k++) {
            sum += share * mix(grain(p), 0.5, smoothstep(0.25, 0.9, px));
            all += share; share *= 0.5; px *= 2.0;
            p = p * 2.03 + vec3(17.1, 5.7, 11.3);
        }
        return sum / all;
    }
    float fine(vec3 p, float px) { return mix(grain(p), 0.5, smoothstep(0.2, 0.8, px)); }
    float spots(vec3 p, float px, float most) { return smoothstep(most, most + 0.12, grain(p)) * (1.0 - smoothstep(0.3, 1.0, px)); }
    // Distance to the nearest of one scattered point a cell, and a number for that point.
    vec2 pebbles(vec3 p) {
        ivec3 i = ivec3(floor(p));
        vec2 best = vec2(9.0, 0.0);
        for (int k = 0; k < 27; k++) {
            ivec3 c = i + ivec3(k % 3, (k / 3) % 3, k / 9) - 1;
            vec3 at = vec3(c) + vec3(lattice(c), lattice(c + ivec3(57, 0, 0)), lattice(c + ivec3(0, 57, 0)));
            float d = distance(p, at);
            if (d < best.x) best = vec2(d, lattice(c + ivec3(0, 0, 57)));
        }
        return best;
    }
    // Round bubbles of different size, some cells without: how deep in one, 0 … 1.
    float bubbles(vec3 p, float px) {
        vec2 b = pebbles(p);
        float r = 0.30 * fract(b.y * 7.0) * step(0.55, b.y);
        return r > 0.03 ? smoothstep(r, r * 0.45, b.x) * (1.0 - smoothstep(0.15, 0.5, px)) : 0.0;
    }
    // Drawn out along a direction.
    vec3 drawn(vec3 q, vec3 way, float by) { return q - way * dot(q, way) * (1.0 - 1.0 / by); }
`;

const PLAIN: Skin = {
    along: 'longest',
    paint: 'c *= 0.94 + 0.12 * cloud(q * 30.0, px * 30.0, 4); if (broken > 0.5) c *= 0.9 + 0.2 * cloud(q * 160.0, px * 160.0, 3);',
    relief: 'return broken > 0.5 ? 0.0022 * cloud(q * 120.0, px * 120.0, 3) : 0.0004 * cloud(q * 200.0, px * 200.0, 2);',
};

const SKINS: Record<string, Skin> = {
    terracotta: {
        along: 'longest',
        paint: `
            float wash = cloud(q * 9.0, px * 9.0, 4);
            c = mix(c * vec3(0.86, 0.80, 0.76), c * vec3(1.12, 1.10, 1.08), smoothstep(0.25, 0.75, wash));
            c = mix(c, c * 1.25 + vec3(0.03, 0.03, 0.028), 0.4 * smoothstep(0.62, 0.8, cloud(q * 5.0 + 40.0, px * 5.0, 3)));
            c *= 0.92 + 0.16 * cloud(q * 140.0, px * 140.0, 2);
            c = mix(c, c * 0.45, 0.6 * spots(q * 230.0, px * 230.0, 0.83));
            c = mix(c, vec3(0.86, 0.74, 0.62), 0.5 * spots(q * 260.0 + 90.0, px * 260.0, 0.87));
            rough += 0.1 * (wash - 0.5);
            if (broken > 0.5) { c = mix(c, c * 1.12 + vec3(0.02), cloud(q * 70.0, px * 70.0, 3)); rough = 0.96; }`,
        relief: `
            if (broken > 0.5) return 0.0032 * cloud(q * 95.0, px * 95.0, 4);
            return 0.0009 * cloud(q * 75.0, px * 75.0, 3) - 0.0005 * spots(q * 230.0, px * 230.0, 0.83);`,
    },
    brick: {
        along: 'longest',
        paint: `
            float burn = cloud(q * 13.0, px * 13.0, 4);
            c = mix(c * vec3(0.84, 0.8, 0.8), c * vec3(1.14, 1.1, 1.06), smoothstep(0.25, 0.7, burn));
            c *= 0.9 + 0.2 * cloud(q * 110.0, px * 110.0, 3);
            c = mix(c, vec3(0.72, 0.62, 0.52), 0.45 * spots(q * 120.0, px * 120.0, 0.82));
            c = mix(c, c * 0.35, 0.7 * spots(q * 160.0 + 30.0, px * 160.0, 0.84));
            if (broken > 0.5) c = c * 1.05 + vec3(0.025, 0.012, 0.008);`,
        relief: `
            float pit = spots(q * 160.0 + 30.0, px * 160.0, 0.84);
            return (broken > 0.5 ? 0.004 : 0.0016) * cloud(q * 85.0, px * 85.0, 4) - 0.0012 * pit;`,
    },
    stone: {
        along: 'thinnest',
        paint: `
            c *= 0.86 + 0.28 * cloud(q * 6.0, px * 6.0, 5);
            c = mix(c, c * vec3(1.06, 1.0, 0.9), smoothstep(0.45, 0.7, cloud(q * 3.0 + 9.0, px * 3.0, 3)));
            float speck = fine(q * 190.0, px * 190.0);
            c *= mix(1.0, 0.72 + 0.56 * speck, 1.0 - smoothstep(0.3, 1.0, px * 190.0));
            c = mix(c, c * 0.5, 0.55 * spots(q * 90.0, px * 90.0, 0.82));
            if (broken > 0.5) c = mix(c, c * 1.1 + 0.03, smoothstep(0.4, 0.7, cloud(q * 45.0, px * 45.0, 3)));`,
        relief: 'return (broken > 0.5 ? 0.0055 : 0.0013) * cloud(q * (broken > 0.5 ? 60.0 : 110.0), px * (broken > 0.5 ? 60.0 : 110.0), 4);',
    },
    concrete: {
        along: 'longest',
        paint: `
            c *= 0.88 + 0.24 * cloud(q * 5.0, px * 5.0, 5);
            c = mix(c, c * 0.82, smoothstep(0.52, 0.75, cloud(drawn(q, vec3(0.0, 1.0, 0.0), 5.0) * 9.0, px * 9.0, 3)));
            c *= 0.95 + 0.1 * fine(q * 260.0, px * 260.0);
            if (broken > 0.5) {
                float see = 1.0 - smoothstep(0.2, 0.7, px * 70.0);
                vec2 pebble = pebbles(q * 70.0);
                vec3 gravel = mix(vec3(0.42, 0.40, 0.37), mix(vec3(0.62, 0.56, 0.47), vec3(0.33, 0.35, 0.37), step(0.6, pebble.y)), pebble.y);
                c = mix(c * 0.95, gravel, see * (1.0 - smoothstep(0.34, 0.42, pebble.x)));
            } else c = mix(c, c * 0.74, 0.6 * bubbles(q * 42.0, px * 42.0));`,
        relief: `
            if (broken > 0.5) return 0.003 * cloud(q * 90.0, px * 90.0, 3) + 0.003 * (1.0 - smoothstep(0.2, 0.7, px * 70.0)) * (1.0 - smoothstep(0.15, 0.5, pebbles(q * 70.0).x));
            return 0.0005 * cloud(q * 120.0, px * 120.0, 2) - 0.0012 * bubbles(q * 42.0, px * 42.0);`,
    },
    slate: {
        along: 'thinnest',
        paint: `
            float bed = cloud(drawn(q, fibre, 0.12) * 14.0, px * 40.0, 4);
            c = mix(c * vec3(0.8, 0.82, 0.88), c * vec3(1.12, 1.14, 1.12), bed);
            c = mix(c, c * vec3(1.06, 0.96, 1.02), smoothstep(0.5, 0.8, cloud(q * 4.0, px * 4.0, 3)));
            c *= 0.94 + 0.12 * fine(q * 420.0, px * 420.0);
            if (broken > 0.5) { c = c * 1.08 + 0.02; c *= 0.75 + 0.5 * fine(drawn(q, fibre, 0.06) * 60.0, px * 60.0); rough = 0.9; }
            else rough += 0.16 * (bed - 0.5);`,
        relief: `
            if (broken > 0.5) return 0.0035 * cloud(drawn(q, fibre, 0.1) * 60.0, px * 200.0, 3);
            float step_ = cloud(q * 16.0, px * 16.0, 3);
            return 0.0012 * floor(step_ * 9.0) / 9.0 + 0.0004 * cloud(q * 130.0, px * 130.0, 3);`,
    },
    felt: {
        along: 'longest',
        paint: `
            float lay = cloud(drawn(q, fibre, 5.0) * 70.0, px * 70.0, 3);
            c *= 0.72 + 0.56 * lay;
            float mineral = fine(q * 330.0, px * 330.0);
            c *= mix(1.0, 0.66 + 0.68 * mineral, 1.0 - smoothstep(0.3, 1.0, px * 330.0));
            c = mix(c, c * 1.5 + 0.02, 0.4 * smoothstep(0.6, 0.8, cloud(q * 4.0, px * 4.0, 3)));
            rough = 0.98;`,
        relief: 'return 0.0018 * cloud(q * 210.0, px * 210.0, 3) + (broken > 0.5 ? 0.004 * cloud(drawn(q, fibre, 4.0) * 90.0, px * 90.0, 2) : 0.0);',
    },
    sacking: {
        along: 'longest',
        paint: `
            vec3 thread = sin(q * 900.0);
            float weave = 0.5 + 0.5 * thread.x * thread.y * thread.z;
            float near = 1.0 - smoothstep(0.15, 0.5, px * 290.0);
            c *= 0.9 + 0.2 * cloud(q * 11.0, px * 11.0, 4);
            c *= mix(1.0, 0.72 + 0.5 * weave, near);
            rough = 0.98;`,
        relief: 'vec3 t = sin(q * 900.0); return (1.0 - smoothstep(0.15, 0.5, px * 290.0)) * 0.0006 * t.x * t.y * t.z + 0.004 * cloud(q * 14.0, px * 14.0, 3);',
    },
    wood: {
        along: 'longest',
        paint: `
            float run = dot(q, fibre);
            vec3 across = q - fibre * run + 0.012 * vec3(cloud(q * 7.0, px * 7.0, 2)) + vec3(0.07, 0.11, 0.05);
            float rings = fract(length(across) * 95.0 + 1.6 * cloud(drawn(q, fibre, 8.0) * 12.0, px * 12.0, 3));
            float late = smoothstep(0.35, 0.95, rings) * (1.0 - smoothstep(0.95, 1.0, rings));
            float see = 1.0 - smoothstep(0.2, 0.8, px * 95.0);
            c = mix(c * 1.08, c * vec3(0.66, 0.56, 0.47), mix(0.4, 0.75 * late, see));
            c *= 0.86 + 0.28 * cloud(drawn(q, fibre, 22.0) * 260.0, px * 260.0, 2);
            c *= 0.9 + 0.2 * cloud(drawn(q, fibre, 6.0) * 6.0, px * 6.0, 3);
            if (broken > 0.5) c = mix(c, vec3(0.86, 0.71, 0.5), 0.5) * (0.8 + 0.4 * fine(drawn(q, fibre, 30.0) * 340.0, px * 340.0));`,
        relief: 'return (broken > 0.5 ? 0.006 : 0.0007) * cloud(drawn(q, fibre, 16.0) * (broken > 0.5 ? 120.0 : 220.0), px * 200.0, 2);',
    },
    bark: {
        along: 'longest',
        paint: `
            float ridge = abs(cloud(drawn(q, fibre, 5.0) * 38.0, px * 38.0, 4) - 0.5) * 2.0;
            c *= 0.45 + 0.8 * smoothstep(0.0, 0.45, ridge);
            c = mix(c, c * vec3(0.85, 1.05, 0.75), smoothstep(0.55, 0.75, cloud(q * 8.0, px * 8.0, 3)));
            rough = 0.97;`,
        relief: 'return broken > 0.5 ? 0.005 * cloud(drawn(q, fibre, 16.0) * 120.0, px * 120.0, 2) : 0.009 * smoothstep(0.0, 0.4, abs(cloud(drawn(q, fibre, 5.0) * 38.0, px * 38.0, 4) - 0.5) * 2.0);',
    },
    plaster: {
        along: 'longest',
        paint: `
            c *= 0.95 + 0.1 * cloud(q * 7.0, px * 7.0, 4);
            c *= 0.97 + 0.06 * cloud(q * 90.0, px * 90.0, 3);
            c = mix(c, c * 0.78, 0.6 * spots(q * 150.0, px * 150.0, 0.88));
            if (broken > 0.5) c *= 0.92 + 0.14 * cloud(q * 120.0, px * 120.0, 3);`,
        relief: 'return broken > 0.5 ? 0.003 * cloud(q * 100.0, px * 100.0, 4) : 0.0007 * cloud(q * 42.0, px * 42.0, 3) - 0.0006 * spots(q * 150.0, px * 150.0, 0.88);',
    },
    leaf: {
        along: 'longest',
        paint: `
            float lobe = cloud(q * 16.0, px * 16.0, 3);
            c = mix(c * vec3(0.78, 0.84, 0.72), c * vec3(1.18, 1.12, 0.92), smoothstep(0.25, 0.75, lobe));
            float veins = abs(cloud(drawn(q, fibre, 3.0) * 90.0, px * 90.0, 2) - 0.5) * 2.0;
            c = mix(c * 1.16 + vec3(0.02, 0.03, 0.0), c, smoothstep(0.0, 0.16, veins));
            c *= 0.94 + 0.12 * fine(q * 320.0, px * 320.0);
            rough = 0.58 + 0.2 * lobe;`,
        relief: 'return 0.0012 * abs(cloud(drawn(q, fibre, 3.0) * 90.0, px * 90.0, 2) - 0.5);',
    },
    metal: {
        along: 'longest',
        paint: `
            float brush = cloud(drawn(q, fibre, 40.0) * 420.0, px * 420.0, 2);
            metal = broken > 0.5 ? 0.75 : 0.95;
            rough = broken > 0.5 ? 0.55 : 0.30 + 0.16 * cloud(q * 10.0, px * 10.0, 3);
            c *= (broken > 0.5 ? 1.0 : 1.35) * (0.94 + 0.12 * brush);
            c = mix(c, c * vec3(0.86, 0.78, 0.7), 0.5 * smoothstep(0.6, 0.75, cloud(q * 6.0, px * 6.0, 4)));
            if (broken > 0.5) c *= 0.8 + 0.4 * fine(q * 300.0, px * 300.0);`,
        relief: 'return broken > 0.5 ? 0.0022 * cloud(q * 220.0, px * 220.0, 2) : 0.00006 * cloud(drawn(q, fibre, 40.0) * 420.0, px * 420.0, 2);',
    },
    ice: {
        along: 'longest',
        paint: `
            float veil = smoothstep(0.3, 0.95, cloud(q * 9.0, px * 9.0, 4));
            float bubbles = smoothstep(0.66, 0.8, fine(drawn(q, fibre, 3.0) * 90.0, px * 90.0));
            c = mix(c * vec3(0.86, 0.95, 1.0), vec3(0.96, 0.985, 1.0), clamp(0.55 * veil + 0.35 * bubbles + 0.25 * broken, 0.0, 1.0));
            rough = 0.07 + 0.2 * veil + 0.3 * broken;`,
        relief: 'return (broken > 0.5 ? 0.002 : 0.0006) * cloud(q * 26.0, px * 26.0, 3);',
    },
    glass: {
        along: 'thinnest',
        paint: 'rough = broken > 0.5 ? 0.16 : 0.03;',
        relief: 'return broken > 0.5 ? 0.0006 * cloud(q * 60.0, px * 60.0, 2) : 0.0;',
    },
};

export function skinOf(material: string): Skin {
    return SKINS[material] ?? PLAIN;
}

/**
 * Shader functions of a material; without any where pixels are to be saved.
 *
 * @param second what its outside turns into
 */
export function skinShader(material: string, second: string | null = null): string {
    const skin = skinOf(material);
    return /* glsl */ `
        ${NOISE}
        void skin(inout vec3 c, inout float rough, inout float metal, vec3 q, vec3 fibre, float broken, float px) { ${skin.paint} }
        ${second === null ? '' : `void skinSecond(inout vec3 c, inout float rough, inout float metal, vec3 q, vec3 fibre, float broken, float px) { ${skinOf(second).paint} }`}
        float relief(vec3 q, vec3 fibre, float broken, float px) { ${skin.relief} }
        // Relief by its slope on the surface (Mikkelsen 2010, "Bump mapping unparametrized surfaces on the GPU").
        vec3 worked(vec3 n, vec3 at, vec3 q, vec3 fibre, float broken, float px, float metre) {
            vec3 dx = dFdx(at), dy = dFdy(at);
            float h = relief(q, fibre, broken, px);
            float hx = relief(q + dFdx(q), fibre, broken, px) - h, hy = relief(q + dFdy(q), fibre, broken, px) - h;
            vec3 r1 = cross(dy, n), r2 = cross(n, dx);
            float det = dot(dx, r1);
            return normalize(abs(det) * n - sign(det) * metre * (hx * r1 + hy * r2));
        }`;
}

/** How many metres stand for one of grain on a prop so many metres across: whole decades. */
export function grainOf(across: number): number {
    return 10 ** Math.round(Math.log10(Math.max(across, 1e-9) / 0.5));
}
