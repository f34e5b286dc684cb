import { useBake } from '../data/bake';
import type { Prop } from '../data/document';
import { useDocument } from '../data/shot';
import { show } from '../data/quantity';

/** Where a bake found the prop touched. */
export function Contacts({ prop, x }: { prop: Prop; x: (frame: number) => number }) {
    const figures = useBake((s) => s.figures);
    const document = useDocument()!;
    const marks = figures.flatMap((f) => f.marks.filter((m) => m.prop === prop.id || m.other === prop.id).map((m) => ({ frame: f.frame, speed: m.speed, other: m.prop === prop.id ? m.other : m.prop })));
    const name = (id: string) => (id === 'ground' ? 'the ground' : (document.props.find((p) => p.id === id)?.name ?? id));
    // What comes close on another mark is said when that is pointed at.
    let free = -Infinity;
    return (
        <>
            {marks.map((m, i) => {
                // What parts as it is let go touches too, but hits nothing.
                const text = `touches ${name(m.other)}${m.speed > 0 ? `, ${show(m.speed, 'm/s', 2)}` : ''}`;
                const at = x(m.frame) + 4;
                const title = <title>{`Frame ${m.frame}: ${text}`}</title>;
                if (at < free) return <path key={i} d={`M${at - 7} 24l3.500-6 3.500 6z`} fill="var(--wrong)">{title}</path>;
                free = at + 6.1 * (text.length + 2);
                return <text key={i} x={at} y={17} fontSize={11.500} fontWeight={600} fill="var(--wrong)">{`✕ ${text}`}{title}</text>;
            })}
        </>
    );
}
