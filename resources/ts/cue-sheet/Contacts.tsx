import { useBake } from '../data/bake';
import type { Prop } from '../data/document';
import { useDocument } from '../data/shot';
import { show } from '../data/quantity';

/** Where a bake found the prop touched. */
export function Contacts({ prop, x }: { prop: Prop; x: (frame: number) => number }) {
    const figures = useBake((s) => s.figures);
    const document = useDocument()!;
    const marks = figures.flatMap((f) => f.marks).filter((m) => m.prop === prop.id);
    const name = (id: string) => (id === 'ground' ? 'the ground' : (document.props.find((p) => p.id === id)?.name ?? id));
    return (
        <>
            {marks.map((m, i) => (
                <text key={i} x={x(m.frame) + 4} y={17} fontSize={11.500} fontWeight={600} fill="var(--wrong)">✕ touches {name(m.other)}, {show(m.speed, 'm/s', 2)}</text>
            ))}
        </>
    );
}
