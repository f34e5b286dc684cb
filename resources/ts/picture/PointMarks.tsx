import { useDocument } from '../data/shot';
import { useUi } from '../data/ui';
import { pointsOf } from './grips';
import { useLens } from './lens';
import { inScene, poseAt } from './pose';

/** The other points of a break, each pressed to put the handle on it. */
export default function PointMarks() {
    useLens((s) => s.seen);
    const { chosen, stage, frame, point, handles, drawing, set } = useUi();
    const prop = useDocument()?.props.find((p) => p.id === chosen);
    if (!prop || prop.hidden || stage !== 'break' || handles === 'off' || drawing !== null) return null;
    const points = pointsOf(prop);
    if (points.length < 2) return null;
    const pose = poseAt(prop, frame);
    const held = Math.min(point, points.length - 1);
    return points.map(({ at, name }, i) => {
        if (i === held) return null;
        const [x, y] = useLens.getState().project(inScene(pose, at));
        return <button key={i} type="button" aria-label={`Take hold of ${name}`} title={`Take hold of ${name}`} onClick={() => set({ point: i })} className="quick absolute size-[18px] -translate-1/2 rounded-full border-2 border-ink bg-paper hover:bg-ink" style={{ left: x, top: y }} />;
    });
}
