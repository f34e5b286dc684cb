import { describe, expect, it } from 'vitest';
import { applyPatch, standing } from './patch';

// Cases after RFC 6902, appendix A.
describe('applyPatch', () => {
    it('adds an object member (A.1)', () => {
        expect(applyPatch<object>({ foo: 'bar' }, [{ op: 'add', path: '/baz', value: 'qux' }])).toEqual({ baz: 'qux', foo: 'bar' });
    });
    it('adds an array element (A.2)', () => {
        expect(applyPatch({ foo: ['bar', 'baz'] }, [{ op: 'add', path: '/foo/1', value: 'qux' }])).toEqual({ foo: ['bar', 'qux', 'baz'] });
    });
    it('removes a member (A.3) and an element (A.4)', () => {
        expect(applyPatch<object>({ baz: 'qux', foo: 'bar' }, [{ op: 'remove', path: '/baz' }])).toEqual({ foo: 'bar' });
        expect(applyPatch({ foo: ['bar', 'qux', 'baz'] }, [{ op: 'remove', path: '/foo/1' }])).toEqual({ foo: ['bar', 'baz'] });
    });
    it('replaces a value (A.5)', () => {
        expect(applyPatch({ baz: 'qux', foo: 'bar' }, [{ op: 'replace', path: '/baz', value: 'boo' }])).toEqual({ baz: 'boo', foo: 'bar' });
    });
    it('appends with - (A.16) and unescapes ~1 and ~0 (A.14)', () => {
        expect(applyPatch<object>({ foo: ['bar'] }, [{ op: 'add', path: '/foo/-', value: ['abc'] }])).toEqual({ foo: ['bar', ['abc']] });
        expect(applyPatch<object>({ '/': 9, '~1': 10 }, [{ op: 'replace', path: '/~01', value: 11 }])).toEqual({ '/': 9, '~1': 11 });
    });
    it('leaves the given document as it was', () => {
        const before = { a: { b: [1] } };
        applyPatch(before, [{ op: 'replace', path: '/a/b/0', value: 2 }]);
        expect(before).toEqual({ a: { b: [1] } });
    });
});

describe('standing', () => {
    const of = (document: object, ...patch: Parameters<typeof standing>[1]) => applyPatch(document, standing(document, patch));
    it('makes what a value stands in', () => {
        expect(of({ motion: {} }, { op: 'add', path: '/motion/release/frame', value: 6 })).toEqual({ motion: { release: { frame: 6 } } });
        expect(of({}, { op: 'replace', path: '/a/b', value: 1 }, { op: 'add', path: '/a/c', value: 2 })).toEqual({ a: { b: 1, c: 2 } });
        expect(of({ a: null }, { op: 'add', path: '/a/b', value: 1 })).toEqual({ a: { b: 1 } });
    });
    it('adds what is to be replaced and is not there, and takes away only what is', () => {
        expect(standing({ a: {} }, [{ op: 'replace', path: '/a/b', value: 1 }])).toEqual([{ op: 'add', path: '/a/b', value: 1 }]);
        expect(standing({ a: {} }, [{ op: 'remove', path: '/a/b' }, { op: 'remove', path: '/c/d' }])).toEqual([]);
    });
    it('leaves all else as it is', () => {
        const patch = [{ op: 'replace' as const, path: '/a/0', value: 2 }, { op: 'add' as const, path: '/a/-', value: 3 }, { op: 'remove' as const, path: '/a/0' }];
        expect(standing({ a: [1] }, patch)).toEqual(patch);
    });
});
