import { Color, FrontSide, MeshDepthMaterial, MeshStandardMaterial, RGBADepthPacking, Vector3, type DataTexture, type Texture, type WebGLProgramParametersWithUniforms } from 'three';
import { skinShader } from './skins';

/** Texels a row of the textures that hold something for each piece; a place takes two. */
export const ROW = 1024;

/** What the shaders of one cloud are told. */
export function cloudUniforms() {
    return {
        placeMap: { value: null as DataTexture | null },
        homeMap: { value: null as DataTexture | null },
        tintMap: { value: null as DataTexture | null },
        spread: { value: 0 },
        spreadFrom: { value: new Vector3() },
        ringWay: { value: new Vector3() },
        tinted: { value: 0 },
        innerColour: { value: new Color() },
        onlyInner: { value: 0 },
        hideInner: { value: 0 },
        pictured: { value: 0 },
        pictureMap: { value: null as Texture | null },
        innerPictured: { value: 0 },
        innerPictureMap: { value: null as Texture | null },
        innerRoughness: { value: 0.95 },
        weighed: { value: 0 },
        /** Metres that stand for one of grain, and the way fibres run. */
        grainSize: { value: 1 },
        fibre: { value: new Vector3(0, 1, 0) },
        /** What the outside turns into, whether there is such a thing, and metres its relief stands out. */
        seconded: { value: 0 },
        secondColour: { value: new Color() },
        secondRoughness: { value: 0.85 },
        reliefDepth: { value: 0 },
        /** 1 where faces fly one by one. */
        flies: { value: 0 },
        /** Share of the light that goes through, and 1 where the bare surface mirrors what is round it. */
        glassy: { value: 0 },
    };
}

export type CloudUniforms = ReturnType<typeof cloudUniforms>;

// A turn whose length is not 1 also sizes, by the square of it.
const TURNED = 'vec3 turned(vec3 v, vec4 q) { return (q.w * q.w - dot(q.xyz, q.xyz)) * v + 2.0 * (dot(q.xyz, v) * q.xyz + q.w * cross(q.xyz, v)); }';

const PLACE = /* glsl */ `
    ivec2 pieceAt = ivec2((int(piece) * 2) % ${ROW}, (int(piece) * 2) / ${ROW});
    vec4 pieceTurn = texelFetch(placeMap, pieceAt + ivec2(1, 0), 0);
    vec4 pieceStand = texelFetch(placeMap, pieceAt, 0);
    vec3 piecePlace = pieceStand.xyz + (pieceStand.xyz - spreadFrom) * spread + ringWay * pieceStand.w;
`;

// Pale yellow to deep blue by way of green, with lines at a quarter, a half and three quarters.
const WEIGHT_COLOUR = /* glsl */ `
    vec3 weightColour(float w) {
        vec3 c = w < 0.25 ? mix(vec3(0.90, 0.86, 0.56), vec3(0.46, 0.70, 0.34), 4.0 * w)
            : w < 0.5 ? mix(vec3(0.46, 0.70, 0.34), vec3(0.06, 0.40, 0.38), 4.0 * w - 1.0)
            : w < 0.75 ? mix(vec3(0.06, 0.40, 0.38), vec3(0.014, 0.12, 0.32), 4.0 * w - 2.0)
            : mix(vec3(0.014, 0.12, 0.32), vec3(0.008, 0.016, 0.075), 4.0 * w - 3.0);
        vec3 off = abs(vec3(w) - vec3(0.25, 0.5, 0.75)) / max(fwidth(w), 1e-4);
        float line = 1.0 - smoothstep(0.6, 1.4, min(off.x, min(off.y, off.z)));
        return mix(c, w > 0.6 ? vec3(0.9) : vec3(0.03), 0.75 * line);
    }
`;

// The slope of what stands out, on the surface (Mikkelsen 2010).
const RELIEF_NORMAL = /* glsl */ `
    if (reliefDepth != 0.0 && isInner < 0.5) {
        vec3 rx = dFdx(-vViewPosition), ry = dFdy(-vViewPosition);
        vec3 s1 = cross(ry, normal), s2 = cross(normal, rx);
        float side = dot(rx, s1);
        normal = normalize(abs(side) * normal - sign(side) * reliefDepth * (dFdx(skinHere.z) * s1 + dFdy(skinHere.z) * s2));
    }
`;

export type Flies = 'not' | 'flat' | 'shaded';

export interface CloudMaterial {
    surface: MeshStandardMaterial;
    depth: MeshDepthMaterial;
    /** Of which material it is to look. */
    wear: (name: string) => void;
    /** Whether its faces stand where their corners are: each flat by itself, or shaded as is said. */
    fly: (flies: Flies) => void;
    /** Of which material it is to look where it has turned into its second surface. */
    turnInto: (name: string) => void;
}

/**
 * @param plain without the grain of materials, where pixels are to be saved
 * @param skinned whether its surface goes by weight maps
 */
export function cloudMaterial(uniforms: CloudUniforms, plain: boolean, skinned: boolean): CloudMaterial {
    let name = '';
    let second = '';
    let flies: Flies = 'not';
    const surface = new MeshStandardMaterial({ roughness: 0.82, metalness: 0 });
    // Back faces in the shadow map would draw every crack of an unbroken prop as a line.
    surface.shadowSide = FrontSide;
    surface.onBeforeCompile = (shader) => patchSurface(shader, uniforms, plain ? null : skinShader(name, skinned ? second : null), skinned, flies);
    surface.customProgramCacheKey = () => `cloud ${plain ? '' : `${name} ${second}`} ${skinned} ${flies}`;
    const depth = new MeshDepthMaterial({ depthPacking: RGBADepthPacking });
    depth.onBeforeCompile = (shader) => patchDepth(shader, uniforms, skinned, flies);
    depth.customProgramCacheKey = () => `cloud depth ${skinned} ${flies}`;
    return {
        surface,
        depth,
        wear: (next) => {
            if (next === name) return;
            name = next;
            surface.needsUpdate = true;
        },
        fly: (next) => {
            if (next === flies) return;
            flies = next;
            surface.flatShading = next === 'flat';
            surface.needsUpdate = depth.needsUpdate = true;
        },
        turnInto: (next) => {
            if (next === second) return;
            second = next;
            surface.needsUpdate = true;
        },
    };
}

/** Faces that fly one by one stand where their corners are. */
const FLY_VERTEX = 'attribute vec3 corner; uniform float flies;';
const FLOWN = 'if (flies > 0.5) transformed = corner;';

/** A surface that goes by weight maps, in both shaders: its points stand out, what is not seen is left away. */
const SKIN_VERTEX = 'attribute vec3 skin; uniform float reliefDepth; varying vec3 skinHere;';
const STAND_OUT = 'skinHere = skin; vec3 standing = position + shading.xyz * (reliefDepth * skin.z * step(shading.w, 0.5));';
const LEAVE_AWAY = 'if (skinHere.y < 0.5) discard;';

function patchSurface(shader: WebGLProgramParametersWithUniforms, uniforms: CloudUniforms, skin: string | null, skinned: boolean, flies: Flies): void {
    Object.assign(shader.uniforms, uniforms);
    shader.vertexShader = shader.vertexShader
        .replace('#include <common>', /* glsl */ `#include <common>
            attribute vec4 shading; attribute float piece; attribute vec2 place; attribute float weight;
            uniform highp sampler2D placeMap, homeMap; uniform sampler2D tintMap; uniform float spread, hideInner; uniform vec3 spreadFrom, ringWay;
            varying float inner; varying float weightHere; varying vec3 pieceTint; varying vec2 atPlace; varying vec3 home;
            ${skinned ? SKIN_VERTEX : ''}
            ${flies === 'not' ? '' : FLY_VERTEX} ${flies === 'shaded' ? 'attribute vec3 cornerNormal;' : ''}
            ${TURNED}`)
        .replace('#include <beginnormal_vertex>', `${PLACE} ${skinned ? STAND_OUT : 'vec3 standing = position;'} inner = shading.w; weightHere = weight; atPlace = place; pieceTint = texelFetch(tintMap, pieceAt, 0).rgb;
            home = position + texelFetch(homeMap, ivec2(int(piece) % ${ROW}, int(piece) / ${ROW}), 0).xyz;
            vec3 objectNormal = ${flies === 'shaded' ? 'flies > 0.5 ? cornerNormal : ' : ''}turned(shading.xyz, pieceTurn);`)
        .replace('#include <begin_vertex>', `vec3 transformed = turned(standing, pieceTurn) + piecePlace;
            ${flies === 'not' ? '' : FLOWN}
            if (hideInner > 0.5 && shading.w > 0.9) transformed = vec3(0.0);`);
    shader.fragmentShader = shader.fragmentShader
        .replace('#include <common>', /* glsl */ `#include <common>
            uniform float tinted, onlyInner, weighed, innerRoughness, pictured, innerPictured, grainSize, glassy;
            uniform sampler2D pictureMap, innerPictureMap; uniform vec3 innerColour, fibre;
            varying float inner; varying float weightHere; varying vec3 pieceTint; varying vec2 atPlace; varying vec3 home;
            ${skinned ? 'uniform float seconded, secondRoughness, reliefDepth; uniform vec3 secondColour; varying vec3 skinHere;' : ''}
            ${skin ?? ''}
            ${WEIGHT_COLOUR}`)
        .replace('#include <color_fragment>', /* glsl */ `
            ${skinned ? LEAVE_AWAY : ''}
            float isInner = step(0.9, inner);
            if (onlyInner > 0.5 && isInner < 0.5) discard;
            bool pictureHere = pictured > 0.0 && isInner < 0.5 && atPlace.x > -0.5;
            if (pictureHere) diffuseColor.rgb = texture2D(pictureMap, atPlace).rgb;
            vec3 within = innerPictured > 0.0 ? texture2D(innerPictureMap, atPlace * innerPictured).rgb : innerColour;
            diffuseColor.rgb = mix(diffuseColor.rgb, within, inner);
            float workedRough = mix(roughness, innerRoughness, isInner);
            float workedMetal = 0.0;
            ${skin === null ? '' : `vec3 grainAt = home / grainSize; float grainPx = length(fwidth(grainAt));
            vec3 skinned = diffuseColor.rgb;
            skin(skinned, workedRough, workedMetal, grainAt, fibre, isInner, grainPx);
            if (!pictureHere && !(isInner > 0.5 && innerPictured > 0.0)) diffuseColor.rgb = clamp(skinned, 0.0, 1.0);`}
            ${skinned ? /* glsl */ `float turned_ = seconded * skinHere.x * (1.0 - isInner);
            if (turned_ > 0.0) {
                vec3 other = secondColour; float otherRough = secondRoughness, otherMetal = 0.0;
                ${skin === null ? '' : 'skinSecond(other, otherRough, otherMetal, grainAt, fibre, 0.0, grainPx);'}
                diffuseColor.rgb = mix(diffuseColor.rgb, clamp(other, 0.0, 1.0), turned_);
                workedRough = mix(workedRough, otherRough, turned_); workedMetal = mix(workedMetal, otherMetal, turned_);
            }` : ''}
            if (tinted > 0.5) { diffuseColor.rgb = mix(pieceTint, mix(pieceTint, innerColour, 0.55), inner); workedMetal = 0.0; workedRough = max(workedRough, 0.6); }
            if (weighed > 0.5) { diffuseColor.rgb = mix(weightColour(weightHere), innerColour, 0.7 * isInner); workedMetal = 0.0; workedRough = 0.85; }`)
        .replace('#include <roughnessmap_fragment>', 'float roughnessFactor = clamp(workedRough, 0.03, 1.0);')
        .replace('#include <metalnessmap_fragment>', 'float metalnessFactor = workedMetal;')
        .replace('#include <normal_fragment_maps>', `${skin === null ? '' : 'normal = worked(normal, -vViewPosition, grainAt, fibre, isInner, grainPx, grainSize);'}
            ${skinned ? RELIEF_NORMAL : ''}`)
        // Of glass one sees the edges, where light has a long way through it, and what it mirrors.
        .replace('#include <opaque_fragment>', /* glsl */ `
            if (glassy > 0.0 && tinted < 0.5 && weighed < 0.5) {
                float across = clamp(dot(normal, normalize(vViewPosition)), 0.0, 1.0);
                float mirrored = 0.04 + 0.96 * pow(1.0 - across, 5.0);
                float body = mix(1.0 - glassy, mix(0.55, 1.0, 1.0 - glassy), max(isInner, 0.75 * pow(1.0 - across, 2.0)));
                vec3 through = totalDiffuse * mix(vec3(1.0), vec3(0.42, 0.8, 0.68), isInner * glassy);
                vec3 gloss = totalSpecular * mix(1.0, 1.6, glassy);
                diffuseColor.a = clamp(body + mirrored * 0.7 + dot(gloss, vec3(0.3)), 0.0, 1.0);
                outgoingLight = (through * body + gloss) / max(diffuseColor.a, 0.02);
            }
            #include <opaque_fragment>`);
}

function patchDepth(shader: WebGLProgramParametersWithUniforms, uniforms: CloudUniforms, skinned: boolean, flies: Flies): void {
    Object.assign(shader.uniforms, uniforms);
    shader.vertexShader = shader.vertexShader
        .replace('#include <common>', /* glsl */ `#include <common>
            attribute float piece; uniform highp sampler2D placeMap; uniform float spread; uniform vec3 spreadFrom; uniform vec3 ringWay;
            ${skinned ? `attribute vec4 shading; ${SKIN_VERTEX}` : ''}
            ${flies === 'not' ? '' : FLY_VERTEX}
            ${TURNED}`)
        .replace('#include <begin_vertex>', `${PLACE} ${skinned ? STAND_OUT : 'vec3 standing = position;'} vec3 transformed = turned(standing, pieceTurn) + piecePlace; ${flies === 'not' ? '' : FLOWN}`);
    // What lets light through throws a thin shadow: a share of its texels.
    shader.fragmentShader = shader.fragmentShader
        .replace('#include <common>', `#include <common>\nuniform float glassy; ${skinned ? 'varying vec3 skinHere;' : ''}`)
        .replace('#include <clipping_planes_fragment>', /* glsl */ `#include <clipping_planes_fragment>
            ${skinned ? LEAVE_AWAY : ''}
            if (glassy > 0.0) { ivec2 dot_ = ivec2(gl_FragCoord.xy) & 1; if (float(2 * (dot_.x ^ dot_.y) + dot_.y) < 4.0 * glassy - 0.6) discard; }`);
}
