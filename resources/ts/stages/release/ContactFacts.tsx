import { useEffect } from 'react';
import { askContact, useContact, type ContactFacts as Facts } from '../../data/contact';
import type { Prop } from '../../data/document';
import { show } from '../../data/quantity';
import { editProp, useShot } from '../../data/shot';
import { useUi } from '../../data/ui';
import { Button } from '../../parts/controls';

/** What the pieces of a prop collide as: seen at a press, with how true to them that is. */
export function ContactFacts({ prop }: { prop: Prop }) {
    const { show: shown, set } = useUi();
    const seen = shown === 'contact';
    const contact = useContact((s) => s.byProp[prop.id]);
    const working = useContact((s) => s.working[prop.id]);
    const problem = useContact((s) => s.problems[prop.id]);
    return (
        <div className="mt-2">
            <Button aria-pressed={seen} tone={seen ? 'dark' : 'plain'} onClick={() => set({ show: seen ? null : 'contact' })}>Show what collides</Button>
            {seen && working != null && <p className="mt-1 text-soft">Being found, {Math.round(100 * working)} %</p>}
            {seen && problem !== undefined && <p className="mt-1">{problem.message} {problem.remedy}</p>}
            {seen && working == null && contact !== undefined && <p className="mt-1 text-soft">{said(contact.pieces.pieces.length, contact.facts)}</p>}
            {seen && working == null && contact?.facts.balls != null && <Balls prop={prop} {...contact.facts.balls} />}
            {seen && working == null && contact !== undefined && contact.facts.deviation > 0.001 && contact.pieces.pieces.length > 1 && (
                <Button onClick={() => set({ picked: [contact.facts.deepest] })}>Pick the one least true</Button>
            )}
        </div>
    );
}

/** Balls that overlap where they begin pop apart. */
function Balls({ prop, pairs, fits }: { prop: Prop; pairs: number; fits: number }) {
    if (pairs === 0) return <p className="mt-1 text-soft">No two balls overlap where they begin.</p>;
    const share = Math.floor(1000 * fits) / 1000;
    return (
        <div className="mt-1">
            <p>{pairs === 1 ? 'One pair of balls overlaps' : `${pairs.toLocaleString('en')} pairs of balls overlap`} where they begin; at {show(share, '')} of the size none does.</p>
            <Button onClick={() => void editProp(prop.id, 'Balls that do not overlap', { '/motion/values/ball': share })}>Make them {show(share, '')}</Button>
        </div>
    );
}

function said(pieces: number, { true: exact, faces, of, simplified, parts, several, deviation }: Facts): string {
    if (exact && simplified > 0) return `Its surface in ${faces.toLocaleString('en')} faces instead of ${of.toLocaleString('en')}, off it by less than ${show(simplified, 'm')}.`;
    if (exact) return pieces === 1 ? 'Its true surface, as it is held or driven.' : 'The true surfaces of its pieces, as they are held or driven.';
    const how = pieces === 1 ? (parts === 1 ? 'One convex part' : `${parts} convex parts`) : `${pieces.toLocaleString('en')} pieces as ${parts.toLocaleString('en')} convex parts, ${several.toLocaleString('en')} of them as several`;
    return `${how}; the surface lies inside them by ${(100 * deviation).toFixed(1)} % of the size at most.`;
}

/** Keeps what is shown as colliding up to date, while it is shown. */
export function useContactShown(): void {
    const shown = useUi((s) => s.show === 'contact');
    const id = useShot((s) => s.shot?.id);
    const tags = useShot((s) => s.shot?.tags);
    const meets = useShot((s) => s.shot?.meets);
    const props = useShot((s) => s.shot?.document.props);
    const revision = useShot((s) => s.shot?.revision);
    useEffect(() => {
        if (!shown || id === undefined || props === undefined) return;
        const stops = props.map((p) => askContact(id, p.id, `${tags?.[p.id] ?? ''} ${meets?.[p.id] ?? ''}`));
        return () => stops.forEach((stop) => stop());
        // Only a saved revision counts.
    }, [shown, id, revision]);
}
