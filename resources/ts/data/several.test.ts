import { describe, expect, it } from 'vitest';
import type { Prop, ShotDocument } from './document';
import { onOthers } from './several';

const prop = (id: string, with_: Partial<Prop>): Prop => ({ id, name: id, place: { position: [0, 0, 0], turn: [0, 0, 0], size: 1 }, motion: { kind: 'fixed' }, break: null, ...with_ }) as unknown as Prop;
const document = {
    props: [
        prop('one', { motion: { kind: 'free' } as Prop['motion'], place: { position: [1, 2, 3], turn: [0, 0, 0], size: 2 } as unknown as Prop['place'] }),
        prop('two', { motion: { kind: 'free' } as Prop['motion'], place: { position: [5, 0, { keys: [] }], turn: [0, 90, 0], size: 3 } as unknown as Prop['place'] }),
        prop('three', { place: { position: [-1, 0, 0], turn: [0, 0, 0], size: 1 } as unknown as Prop['place'] }),
    ],
} as unknown as ShotDocument;

const made = (changes: Record<string, unknown>) => onOthers(document, 'one', ['two', 'three'], changes, 'add').map((step) => [step.path, 'value' in step ? step.value : undefined] as unknown);

describe('a change of one of several that are chosen', () => {
    it('moves the others by as much, and leaves what is keyed', () => {
        expect(made({ '/place/position': [2, 2, 1] })).toEqual([['/props/1/place/position', [6, 0, { keys: [] }]], ['/props/2/place/position', [0, 0, -2]]]);
        expect(made({ '/place/position/0': 1.5 })).toEqual([['/props/1/place/position/0', 5.5], ['/props/2/place/position/0', -0.5]]);
        expect(made({ '/place/position/2': 4 })).toEqual([['/props/2/place/position/2', 1]]);
    });
    it('makes them larger by the same factor', () => {
        expect(made({ '/place/size': 3 })).toEqual([['/props/1/place/size', 4.5], ['/props/2/place/size', 1.5]]);
    });
    it('sets any other value where they are alike', () => {
        expect(made({ '/motion/values/friction': 0.3 })).toEqual([['/props/1/motion/values/friction', 0.3]]);
        expect(made({ '/motion': { kind: 'fixed' } })).toEqual([['/props/1/motion', { kind: 'fixed' }], ['/props/2/motion', { kind: 'fixed' }]]);
        expect(made({ '/break/values/count': 10 })).toEqual([]);
        expect(made({ '/hidden': true })).toHaveLength(2);
    });
    it('leaves names, shapes and maps to each', () => {
        expect(made({ '/name': 'x', '/source/values/width': 1, '/weights': [] })).toEqual([]);
    });
});
