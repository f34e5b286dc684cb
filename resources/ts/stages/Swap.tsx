import { Replace } from 'lucide-react';
import { useRef } from 'react';
import { toast } from 'sonner';
import type { Prop } from '../data/document';
import { editProp } from '../data/shot';
import { said } from '../data/said';
import { sourceOf } from '../data/bringIn';
import { Button, Section } from '../parts/controls';

/** Puts another file in the prop's place; everything set for it stays and is computed anew. */
export function Swap({ prop }: { prop: Prop }) {
    const input = useRef<HTMLInputElement>(null);
    const take = async (file: File) => {
        try {
            const { source } = await sourceOf(file);
            if (await editProp(prop.id, `Swap ${prop.name} for ${file.name}`, { '/source': source })) toast.success(`${prop.name} is now ${file.name}.`, { description: 'Its preparation, break, material and motion were kept.' });
        } catch (e) {
            said(e);
        }
    };
    return (
        <Section title="Source">
            <input ref={input} type="file" accept=".obj,.stl,.ply,.glb,.svg,.png" className="sr-only" tabIndex={-1} aria-label="File to swap in" onChange={(e) => {
                const file = e.target.files?.[0];
                e.target.value = '';
                if (file) void take(file);
            }} />
            <Button onClick={() => input.current?.click()} hint="Another file in its place; everything set for it is kept"><Replace size={13} aria-hidden /> Swap for a file…</Button>
        </Section>
    );
}
