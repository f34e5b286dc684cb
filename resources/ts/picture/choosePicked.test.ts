import { beforeEach, describe, expect, it } from 'vitest';
import { useUi } from '../data/ui';
import { chooseBoxed, choosePicked } from './choosePicked';

const picked = () => useUi.getState().picked;

beforeEach(() => useUi.getState().set({ stage: 'break', chosen: 'jar', picked: [], lit: [] }));

describe('choosePicked', () => {
    it('picks one piece, and another instead', () => {
        choosePicked({ prop: 'jar', piece: 3 }, false, 9);
        choosePicked({ prop: 'jar', piece: 5 }, false, 9);
        expect(picked()).toEqual([5]);
    });
    it('adds and takes back with the key held', () => {
        choosePicked({ prop: 'jar', piece: 3 }, true, 9);
        choosePicked({ prop: 'jar', piece: 5 }, true, 9);
        choosePicked({ prop: 'jar', piece: 3 }, true, 9);
        expect(picked()).toEqual([5]);
    });
    it('lets go of a piece clicked again, and of all beside the stage', () => {
        choosePicked({ prop: 'jar', piece: 3 }, false, 9);
        choosePicked({ prop: 'jar', piece: 3 }, false, 9);
        expect(picked()).toEqual([]);
        choosePicked({ prop: 'jar', piece: 3 }, false, 9);
        choosePicked(null, true, 1);
        expect(picked()).toEqual([3]);
        choosePicked(null, false, 1);
        expect(picked()).toEqual([]);
    });
    it('chooses another prop first', () => {
        choosePicked({ prop: 'jar', piece: 3 }, false, 9);
        choosePicked({ prop: 'flags', piece: 0 }, false, 1);
        expect(useUi.getState().chosen).toBe('flags');
        expect(picked()).toEqual([]);
    });
    it('picks no pieces on other stages, nor of a whole prop', () => {
        choosePicked({ prop: 'jar', piece: 0 }, false, 1);
        useUi.getState().set({ stage: 'bake' });
        choosePicked({ prop: 'jar', piece: 2 }, false, 9);
        expect(picked()).toEqual([]);
    });
});

describe('chooseBoxed', () => {
    const counts = { jar: 9, flags: 1, lamp: 4 };
    it('picks pieces of the chosen prop, and more with the key held', () => {
        chooseBoxed({ jar: [4, 2], lamp: [0] }, counts, false);
        expect(picked()).toEqual([2, 4]);
        chooseBoxed({ jar: [1] }, counts, true);
        expect(picked()).toEqual([1, 2, 4]);
        chooseBoxed({ jar: [] }, counts, false);
        expect(picked()).toEqual([]);
    });
    it('chooses props where no pieces are picked: those of which more than half is in it', () => {
        useUi.getState().set({ stage: 'props' });
        chooseBoxed({ jar: [0, 1], lamp: [0, 1, 2], flags: [0] }, counts, false);
        expect([useUi.getState().chosen, useUi.getState().also]).toEqual(['lamp', ['flags']]);
        chooseBoxed({}, counts, false);
        expect(useUi.getState().chosen).toBe('lamp');
    });
});
