import { useShot } from '../data/shot';
import { useUi } from '../data/ui';
import { useChosen } from '../data/useChosen';
import { Button, Section } from '../parts/controls';

/** Keeps the chosen prop as it is at the playhead: a cast of it, as a prop. */
export function KeepFrame() {
    const prop = useChosen();
    const frame = useUi((s) => s.frame);
    if (!prop) return null;
    const keep = async () => {
        if (await useShot.getState().keepFrame(prop.id, frame)) useUi.getState().set({ chosen: useShot.getState().shot!.document.props.at(-1)!.id });
    };
    return (
        <Section title="Cast" aside={`frame ${frame}`}>
            <p className="mb-1.5 text-soft">{prop.name} as it is at this frame, kept as a prop: its pieces, its materials, and where they stand. A map can let a prop go over into a cast of it, on <em>Weights</em>.</p>
            <Button onClick={() => void keep()}>Keep {prop.name} at frame {frame}</Button>
        </Section>
    );
}
