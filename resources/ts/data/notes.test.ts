import { describe, expect, it } from 'vitest';
import type { ShotDocument } from './document';
import { notesAsText } from './notes';

describe('notes as text', () => {
    it('has them in the order of their frames, with time and prop', () => {
        const shot = { name: 'Jar', frames: { first: 0, last: 96, rate: [24, 1] }, props: [{ id: 'jar', name: 'The jar' }], notes: [{ frame: 36, text: 'too\nloud', prop: 'jar', mark: [] }, { frame: 12, text: 'good', prop: 'gone' }] } as unknown as ShotDocument;
        expect(notesAsText(shot).split('\n')).toEqual(['Notes on Jar', 'frame\ttime\tprop\tnote', '12\t00:00:00:12\t\tgood', '36\t00:00:01:12\tThe jar\ttoo loud (marked in the picture)', '']);
    });
});
