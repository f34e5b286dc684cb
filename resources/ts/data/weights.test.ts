import { describe, expect, it } from 'vitest';
import type { Catalogue, Option } from './api';
import type { Prop, ShotDocument, WeightMap } from './document';
import { axesOf, lanesOf, pointerOf } from './lanes';
import { decodeFrame, endTrial, frameShown, settleTrial, shownMap, useMaps, type MapFrame } from './maps';
import { arithmetic, freeMapId, freeMapName, newSource } from './weights';

const option = (name: string, keyable: boolean, value: unknown): Option => ({ name, label: name, meaning: '', type: 'number', keyable, default: value, least: 0, most: 1, unit: 'm', choices: [], with: '', ofPieces: false, part: '' });
const entry = (label: string, ...options: Option[]) => ({ label, options, anywhere: false, measured: true });
const catalogue = {
    weights: { proximity: entry('Proximity', option('to', false, ''), option('full', true, 0.1)), grain: entry('Grain', option('size', true, 0.1)), front: entry('Front', option('point', true, [0, 0, 0])), map: entry('Another map') },
    inTime: { lag: { label: 'Lag', options: [option('half', true, 0.2)] } },
    pushes: {},
    drifts: {},
    movers: {},
    settings: { world: [], place: [], material: [], motion: [], camera: [], plate: [] },
} as unknown as Catalogue;

const reach: WeightMap = {
    id: 'reach', name: 'Reach', inTime: [{ step: 'lag', values: { half: 0.3 } }],
    sources: [{ source: 'proximity', values: { to: 'bag', full: { keys: [{ frame: 3, value: 0.2 }] } } }, { source: 'grain', values: {}, operation: 'multiply', amount: 0.6 }, { source: 'map', values: { map: 'lip' }, operation: 'subtract', invert: true }],
};
const prop = (id: string, name: string, weights?: WeightMap[]): Prop => ({
    id, name, source: { kind: 'shape', shape: 'box', values: {} }, place: { position: [0, 0, 0], turn: [0, 0, 0], size: 1 },
    material: { name: 'brick', colour: '#000000', inner: '#000000', density: 1, friction: 1, bounce: 0 }, motion: { kind: id === 'bag' ? 'keyed' : 'fixed' }, ...(weights ? { weights } : {}),
});
const shot: ShotDocument = {
    version: 6, name: 'Test', frames: { first: 0, last: 10, rate: [24, 1] }, world: { gravity: [0, 0, 0], ground: { kind: 'flat' }, friction: 0, bounce: 0 },
    props: [prop('floor', 'Floor'), prop('wall', 'Wall', [reach, { id: 'lip', name: 'Lip', sources: [] }]), prop('bag', 'Sandbag')],
};

describe('the arithmetic of a map', () => {
    it('reads as a line, with what is measured to, amounts and what is inverted', () => {
        expect(arithmetic(reach, shot, catalogue)).toBe('proximity(Sandbag) × 0.6·grain − ¬another map(Lip)');
    });
});

describe('maps of a shot', () => {
    it('are given names and ids nobody has', () => {
        expect(freeMapName(shot, 'reach')).toBe('reach 2');
        expect(freeMapId(shot, 'Lip')).toBe('lip-2');
        expect(freeMapId(shot, '«»')).toBe('map');
    });
    it('are shown by id, or the first of the prop', () => {
        expect(shownMap(shot, 'wall', 'lip')?.at).toBe(1);
        expect(shownMap(shot, 'wall', 'gone')?.map.id).toBe('reach');
        expect(shownMap(shot, 'bag', 'reach')).toBeNull();
    });
    it('begin with a source that looks at what moves, and a front in the scene', () => {
        const middle = { own: [0, 1, 0], scene: [5, 1, 0] };
        expect(newSource('proximity', catalogue.weights.proximity, { full: 0.3 }, shot.props[1]!, shot, middle).values).toEqual({ to: 'bag', full: 0.3 });
        expect(newSource('front', catalogue.weights.front, {}, shot.props[1]!, shot, middle)).toMatchObject({ on: 'world', values: { point: [5, 1, 0] } });
    });
    it('have lanes for all that can be keyed in them', () => {
        const lanes = lanesOf(shot, catalogue);
        expect(lanes.map((l) => l.label)).toEqual(['Reach: proximity full', 'Reach: proximity amount', 'Reach: grain size', 'Reach: grain amount', 'Reach: another map amount', 'Reach: lag half']);
        expect(axesOf(shot, lanes[0]!)).toEqual([{ keys: [{ frame: 3, value: 0.2 }] }]);
        expect(pointerOf(shot, lanes[5]!)).toBe('/props/1/weights/0/inTime/0/values/half');
    });
    it('number the sources that are alike', () => {
        const front = { source: 'front', values: {} };
        const twice = { props: [{ ...shot.props[1]!, weights: [{ id: 'two', name: 'Two', sources: [front, { source: 'grain', values: {} }, front] }] }] } as unknown as ShotDocument;
        expect(lanesOf(twice, catalogue).map((l) => l.label).filter((l) => !l.endsWith('amount'))).toEqual(['Two: front 1 point', 'Two: grain size', 'Two: front 2 point']);
    });
});

describe('what is tried by hand', () => {
    const weights: MapFrame = { weights: new Uint8Array([9]), none: 0, full: 0, least: 0, mean: 0, most: 0 };
    it('is shown at its frame, and stays when it is let go until the change is worked out', async () => {
        useMaps.setState({ told: null, trial: { frame: 3, weights, until: null } });
        expect(frameShown(3)).toBe(weights);
        expect(frameShown(4)).toBe(null);
        settleTrial(Promise.resolve(true));
        await Promise.resolve();
        expect(frameShown(3)).toBe(weights);
        endTrial();
        expect(frameShown(3)).toBe(null);
    });
    it('goes where the change was not possible', async () => {
        useMaps.setState({ told: null, trial: { frame: 3, weights, until: null } });
        settleTrial(Promise.resolve(false));
        await Promise.resolve();
        expect(frameShown(3)).toBe(null);
    });
});

describe('decodeFrame', () => {
    it('reads the figures and a byte a point', () => {
        const bytes = new ArrayBuffer(31);
        const view = new DataView(bytes);
        view.setUint32(0, 0x59425731);
        view.setUint32(4, 3, true);
        [0.5, 0.25, 0, 0.75, 1].forEach((v, k) => view.setFloat32(8 + 4 * k, v, true));
        new Uint8Array(bytes, 28).set([0, 128, 255]);
        expect(decodeFrame(bytes)).toEqual({ weights: new Uint8Array([0, 128, 255]), none: 0.5, full: 0.25, least: 0, mean: 0.75, most: 1 });
        expect(() => decodeFrame(new ArrayBuffer(40))).toThrow('no weights');
    });
});
