import { ClipboardPaste } from 'lucide-react';
import type { Prop } from '../data/document';
import { useShot } from '../data/shot';
import { paste, useCopied } from '../data/wholeProps';
import { Button, Section } from '../parts/controls';

const PARTS: readonly [label: string, what: readonly string[]][] = [
    ['Break', ['break', 'rework', 'innerSmooth']],
    ['Motion', ['motion']],
    ['Material', ['material']],
    ['Maps', ['weights']],
    ['Dust', ['dust']],
    ['All of these', []],
];

/** What can be done with the prop that was copied: one more of it, or some of its set-up on the chosen one. */
export function CopiedProp({ prop }: { prop: Prop | null }) {
    const copied = useCopied((s) => s.copied);
    const shot = useShot((s) => s.shot?.id);
    if (copied === null) return null;
    const itself = prop !== null && copied.shot === shot && copied.prop === prop.id;
    return (
        <Section title={`Copied: ${copied.name}`}>
            <Button onClick={() => void paste()}><ClipboardPaste size={13} aria-hidden /> Paste it as one more</Button>
            {prop !== null && !itself && (
                <>
                    <p className="mt-2 mb-1 text-soft">Or on {prop.name} only its</p>
                    <div className="flex flex-wrap gap-1.5">
                        {PARTS.map(([label, what]) => <Button key={label} onClick={() => void paste({ onto: prop.id, what })}>{label}</Button>)}
                    </div>
                </>
            )}
        </Section>
    );
}
