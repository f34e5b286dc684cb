import { describe, expect, it } from 'vitest';
import { anchorOf, linkIn } from './help';

describe('help', () => {
    it('names headings as links do', () => {
        expect(anchorOf('Drift: motion without physics')).toBe('drift-motion-without-physics');
        expect(anchorOf('What “it” does')).toBe('what-it-does');
    });
    it('follows links between pages, and no others', () => {
        expect(linkIn('cloth', 'mortar.md')).toBe('mortar');
        expect(linkIn('cloth', './time-and-cues.md#keys-and-curves')).toBe('time-and-cues#keys-and-curves');
        expect(linkIn('cloth', '#contact')).toBe('cloth#contact');
        expect(linkIn('cloth', '../README.md')).toBeNull();
        expect(linkIn('cloth', 'javascript:alert(1)')).toBeNull();
    });
});
