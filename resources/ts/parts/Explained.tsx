import { Fragment } from 'react';
import { WORDS } from '../data/help';
import { Hint } from './controls';

const KNOWN = new RegExp(`\\b(${Object.keys(WORDS).sort((a, b) => b.length - a.length).join('|')})\\b`, 'i');

/** Text in which the words of the product say what they mean, where the pointer rests on them or the keyboard comes to them. */
export function Explained({ children }: { children: string }) {
    const parts = children.split(KNOWN);
    const seen = new Set<string>();
    return (
        <>
            {parts.map((part, k) => {
                const meaning = WORDS[part.toLowerCase()];
                if (meaning === undefined || seen.has(part.toLowerCase())) return <Fragment key={k}>{part}</Fragment>;
                seen.add(part.toLowerCase());
                return <Hint key={k} text={meaning}><span tabIndex={0} role="note" className="cursor-help underline decoration-dotted underline-offset-2">{part}</span></Hint>;
            })}
        </>
    );
}
