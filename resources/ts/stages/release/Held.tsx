import type { Prop } from '../../data/document';
import { heldBy, holdBy } from '../../data/pins';
import { useDocument } from '../../data/shot';
import { useUi } from '../../data/ui';
import { Button, Toggle } from '../../parts/controls';

/** What holds a prop that is soft: corners and edges picked in the picture. */
export function Held({ prop }: { prop: Prop }) {
    const document = useDocument();
    const on = useUi((s) => s.pinning) === prop.id;
    const { map, pinned } = heldBy(prop);
    const said = [[pinned.corners.length, 'corner'], [pinned.edges.length, 'edge']].filter(([n]) => Number(n) > 0).map(([n, word]) => `${n} ${word}${n === 1 ? '' : 's'}`);
    const more = map?.sources.some((s) => s.source !== 'pins') ?? false;
    const where = [more ? `where ${map!.name} says` : '', said.length > 0 ? `at ${said.join(' and ')}` : ''].filter((w) => w !== '').join(', and ');
    return (
        <>
            <Toggle label="Pick in the picture" hint="Corners and edges of it are shown; a press holds it there" value={on} onChange={(pick) => useUi.getState().set({ pinning: pick ? prop.id : null })} />
            <div className="flex items-center gap-2">
                <span className="flex-1 text-soft">{where === '' ? 'Nothing holds it: it falls.' : `Held ${where}.`}</span>
                {said.length > 0 && document && <Button onClick={() => holdBy(document, prop, `Let go ${prop.name}`, { corners: [], edges: [] })}>Let go</Button>}
            </div>
        </>
    );
}
