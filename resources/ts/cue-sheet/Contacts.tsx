import { useBake } from '../data/bake';
import { pressMark } from '../data/cues';
import type { Prop } from '../data/document';
import { useDocument } from '../data/shot';
import { show } from '../data/quantity';
import { useUi } from '../data/ui';

/** Where a bake found the prop touched: a press goes there, another makes it a cue that follows the touch. */
export function Contacts({ prop, x }: { prop: Prop; x: (frame: number) => number }) {
    const figures = useBake((s) => s.figures);
    const at = useUi((s) => s.frame);
    const document = useDocument()!;
    const marks = figures.flatMap((f) => f.marks.filter((m) => m.prop === prop.id || m.other === prop.id).map((m) => ({ frame: f.frame, mark: m, other: m.prop === prop.id ? m.other : m.prop })));
    const name = (id: string) => (id === 'ground' ? 'the ground' : (document.props.find((p) => p.id === id)?.name ?? id));
    // What comes close on another mark is said when that is pointed at.
    let free = -Infinity;
    return (
        <>
            {marks.map(({ frame, mark, other }, i) => {
                // What parts as it is let go touches too, but hits nothing.
                const text = `touches ${name(other)}${mark.speed > 0 ? `, ${show(mark.speed, 'm/s', 2)}` : ''}`;
                const left = x(frame) + 4;
                const hint = `Frame ${frame}: ${text}. ${frame === at ? 'Press again for a cue that follows it' : 'Press to go there'}`;
                const pressed = { role: 'button', tabIndex: 0, 'aria-label': hint, className: 'cursor-pointer', onPointerDown: (e: React.PointerEvent) => e.stopPropagation(), onClick: () => pressMark(frame, mark), onKeyDown: (e: React.KeyboardEvent) => e.key === 'Enter' && pressMark(frame, mark) };
                if (left < free) return <path key={i} {...pressed} d={`M${left - 7} 24l3.500-6 3.500 6z`} fill="var(--wrong)"><title>{hint}</title></path>;
                free = left + 6.1 * (text.length + 2);
                return <text key={i} {...pressed} x={left} y={17} fontSize={11.500} fontWeight={600} fill="var(--wrong)" stroke="var(--wash)" strokeWidth={5} paintOrder="stroke">{`✕ ${text}`}<title>{hint}</title></text>;
            })}
        </>
    );
}
