import { describe, expect, it } from 'vitest';
import type { Option } from './api';
import { applies } from './options';

const option = (name: string, type: Option['type'], def: unknown, needs = ''): Option => ({ name, label: name, meaning: '', type, keyable: false, default: def, least: 0, most: 1, unit: '', choices: [], with: needs, ofPieces: false, part: '' });
const options = [option('cluster', 'points', null), option('bands', 'whole', 0), option('cutter', 'choice', 'round'), option('crowd', 'number', 0.5, 'cluster'), option('width', 'number', 0.1, 'bands'), option('outline', 'outline', null, 'cutter=outline')];
const shown = (values: Record<string, unknown>) => options.filter((o) => applies(o, options, values)).map((o) => o.name);

describe('applies', () => {
    it('counts an empty text as not set', () => {
        const text = { name: 'turns', default: '', with: '' } as Option;
        const course = { name: 'turning', default: null, with: 'turns' } as Option;
        expect(applies(course, [text, course], {})).toBe(false);
        expect(applies(course, [text, course], { turns: '#aabbcc' })).toBe(true);
    });

    it('hides what depends on something that is not set', () => {
        expect(shown({})).toEqual(['cluster', 'bands', 'cutter']);
        expect(shown({ cluster: null, bands: 0 })).toEqual(['cluster', 'bands', 'cutter']);
    });
    it('shows what needs more of something from there on', () => {
        const clumps = [option('clump', 'whole', 1), option('firm', 'number', 3, 'clump>1')];
        expect([1, 2].map((clump) => clumps.filter((o) => applies(o, clumps, { clump })).length)).toEqual([1, 2]);
    });
    it('shows it when one of several is set, and hides it with what it depends on', () => {
        const chained = [option('cluster', 'points', null), option('weight', 'weight', null), option('crowd', 'number', 0.5, 'cluster|weight'), option('bands', 'whole', 0), option('rim', 'choice', 'pieces', 'bands'), option('depth', 'number', 0, 'rim=pieces')];
        const names = (values: Record<string, unknown>) => chained.filter((o) => applies(o, chained, values)).map((o) => o.name);
        expect(names({})).not.toContain('crowd');
        expect(names({ weight: { source: 'ball', values: {} } })).toContain('crowd');
        expect(names({ cluster: [[0, 0, 0]] })).toContain('crowd');
        expect(names({})).not.toContain('depth');
        expect(names({ bands: 2 })).toContain('depth');
        expect(names({ bands: 2, rim: 'marked' })).not.toContain('depth');
    });
    it('shows it once that is set, to the value that is wanted', () => {
        expect(shown({ cluster: [[0, 0, 0]], bands: 2, cutter: 'outline' })).toEqual(['cluster', 'bands', 'cutter', 'crowd', 'width', 'outline']);
        expect(shown({ cutter: 'ball' })).not.toContain('outline');
    });
});
