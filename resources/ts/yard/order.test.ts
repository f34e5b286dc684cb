import { describe, expect, it } from 'vitest';
import type { ShotCard } from '../data/api';
import { foldersOf, sought } from './order';

const card = (name: string, with_: Partial<ShotCard> = {}) => ({ id: name, name, folder: '', tags: [], props: [], changedAt: '2026-01-01T00:00:00Z', madeAt: '2026-01-01T00:00:00Z', openedAt: null, ...with_ }) as unknown as ShotCard;
const shots = [
    card('Wall 10', { folder: 'Garden', tags: ['client'], props: ['Bricks'], madeAt: '2026-01-03T00:00:00Z' }),
    card('Wall 9', { folder: 'Garden', changedAt: '2026-01-05T00:00:00Z' }),
    card('Jar', { openedAt: '2026-01-09T00:00:00Z', tags: ['template'] }),
];
const names = (of: ShotCard[]) => of.map((s) => s.name);

describe('the order of the yard', () => {
    it('has folders by name', () => expect(foldersOf([...shots, card('x', { folder: 'Attic' })])).toEqual(['Attic', 'Garden']));
    it('finds by all words in name, tags and props', () => {
        expect(names(sought(shots, null, 'wall bri', 'name'))).toEqual(['Wall 10']);
        expect(names(sought(shots, null, 'client', 'name'))).toEqual(['Wall 10']);
        expect(names(sought(shots, 'Garden', '', 'name'))).toEqual(['Wall 9', 'Wall 10']);
        expect(names(sought(shots, '', '', 'name'))).toEqual(['Jar']);
    });
    it('orders by when, the last first', () => {
        expect(names(sought(shots, null, '', 'changed'))[0]).toBe('Wall 9');
        expect(names(sought(shots, null, '', 'opened'))[0]).toBe('Jar');
        expect(names(sought(shots, null, '', 'made'))[0]).toBe('Wall 10');
    });
});
