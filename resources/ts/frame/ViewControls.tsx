import { useEffect, useRef } from 'react';
import { useMortar } from '../data/mortar';
import { spanOf, useOrder } from '../data/order';
import { usePieces } from '../data/pieces';
import { useDocument } from '../data/shot';
import { useUi, type Handle, type Show, type View } from '../data/ui';
import { Choice } from '../parts/controls';
import { PickPieces } from './PickPieces';

export function ViewControls() {
    const { view, show, stage, handles, chosen, set } = useUi();
    const camera = useDocument()?.camera !== undefined;
    // Where only a bake can tell there is nothing to show.
    const ordered = useOrder((s) => s.prop === chosen && s.frames !== null && spanOf(s.frames) !== null) && (stage === 'motion' || stage === 'bake');
    const bonded = useMortar((s) => s.prop === chosen && s.sections.length > 0) && (stage === 'motion' || stage === 'bake');
    const weighed = usePieces((s) => chosen !== null && s.byProp[chosen]?.weighed === true);
    const place = useFootSaid();
    return (
        <div ref={place} data-over="bottom" className="absolute bottom-2.5 left-2.5 flex max-w-[calc(100%-170px)] flex-wrap gap-2">
            <Choice<View> label="View" value={view.name} onChange={(name) => set({ view: { name, asked: view.asked + 1 } })} options={[{ value: 'three-quarter', label: '¾' }, { value: 'front', label: 'Front' }, { value: 'side', label: 'Side' }, { value: 'top', label: 'Top' }, ...(camera ? [{ value: 'camera' as const, label: 'Camera', hint: 'Look through the shot’s camera; dragging moves it' }] : [])]} />
            <Choice<Show> label="Show" value={show ?? (stage === 'break' ? 'pieces' : 'surface')} onChange={(s) => set({ show: s })} options={[{ value: 'surface', label: 'Surface' }, { value: 'pieces', label: 'Pieces' }, { value: 'inside', label: 'Inside', hint: 'Only what a break has made' }, { value: 'clear', label: 'X-ray', hint: 'See through it' }, { value: 'wire', label: 'Wire' }, ...(stage === 'motion' || stage === 'bake' || show === 'contact' ? [{ value: 'contact' as const, label: 'Contact', hint: 'What collides: true surfaces of what is held, convex parts of what falls' }] : []), ...(weighed || stage === 'weights' || show === 'weight' ? [{ value: 'weight' as const, label: 'Weight', hint: 'From yellow for none to blue for full, with lines at ¼, ½ and ¾' }] : []), ...(ordered || show === 'order' ? [{ value: 'order' as const, label: 'Order', hint: 'When each piece is let go: yellow first, blue last, grey where only a bake can tell' }] : []), ...(show === 'stretch' ? [{ value: 'stretch' as const, label: 'Stretch', hint: 'How far cloth is drawn: yellow for none, blue for as far as it gives' }] : []), ...(show === 'pressure' ? [{ value: 'pressure' as const, label: 'Pressure', hint: 'What presses cloth outwards: yellow for nothing, blue for the greatest' }] : []), ...(bonded || show === 'mortar' ? [{ value: 'mortar' as const, label: 'Mortar', hint: 'Its bonds: from teal to red as they bear more; after the start those that broke' }] : [])]} />
            {(stage === 'props' || stage === 'motion') && chosen !== null && <Choice<Handle> label="Handles" value={handles} onChange={(h) => set({ handles: h })} options={[{ value: 'move', label: 'Move' }, { value: 'turn', label: 'Turn' }, { value: 'size', label: 'Size' }, { value: 'off', label: 'Off' }]} />}
            <PickPieces />
        </div>
    );
}

/** Says in `--foot` how much of the window, from below, is taken up to its upper edge: notices keep above that. */
function useFootSaid() {
    const place = useRef<HTMLDivElement>(null);
    useEffect(() => {
        const own = place.current!;
        const say = () => document.documentElement.style.setProperty('--foot', `${window.innerHeight - own.getBoundingClientRect().top}px`);
        const sizes = new ResizeObserver(say);
        sizes.observe(own);
        sizes.observe(own.parentElement!);
        return () => sizes.disconnect();
    }, []);
    return place;
}
