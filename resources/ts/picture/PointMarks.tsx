import type { Prop } from '../data/document';
import { currentMoments } from '../data/moments';
import { inScene, poseAt, type Pose } from '../data/pose';
import type { Triple } from '../data/pieces';
import { editProp, useDocument } from '../data/shot';
import { useUi } from '../data/ui';
import { DragPoint } from './DragPoint';
import { axes, pointsOf, within } from './grips';
import { snapped, useLens } from './lens';

/** The points of a break in the picture, dragged over the prop or moved by arrow keys. */
export default function PointMarks() {
    useLens((s) => s.seen);
    const { chosen, stage, frame, drawing } = useUi();
    const prop = useDocument()?.props.find((p) => p.id === chosen);
    if (!prop || prop.hidden || stage !== 'break' || drawing !== null) return null;
    const pose = poseAt(prop, frame, currentMoments());
    return pointsOf(prop).map(({ path, at, name }) => (
        <DragPoint
            key={path}
            pose={pose}
            at={at as Triple}
            label={`Move ${name}`}
            title={`Drag ${name} over ${prop.name}, or move it by the arrow keys`}
            to={(x, y) => onProp(prop, pose, at, x, y)}
            words={(here) => `${name.replace('the ', '')} ${axes(here, 'm')}`}
            onSet={(to) => void editProp(prop.id, `Move ${name} of ${prop.name}`, { [path]: to }, 'replace')}
        />
    ));
}

/** Where a point goes for a pixel of the picture: onto the prop, or as far away as it was where the prop is missed. */
function onProp(prop: Prop, pose: Pose, at: readonly number[], x: number, y: number): Triple {
    const { surface, cast, metre } = useLens.getState();
    let to = surface(prop.id, x, y);
    if (to === null) {
        const { from, towards } = cast(x, y);
        const was = inScene(pose, at);
        const far = Math.hypot(was[0] - from[0], was[1] - from[1], was[2] - from[2]);
        to = [from[0] + far * towards[0], from[1] + far * towards[1], from[2] + far * towards[2]];
    }
    return within(pose, to).map((v) => snapped(v, metre)) as Triple;
}
