import BrushBoard from './BrushBoard';
import DriftMarks from './DriftMarks';
import FaultMark from './FaultMark';
import ForceMarks from './ForceMarks';
import LineUpMarks from './LineUpMarks';
import NoteMarks from './NoteMarks';
import PinMarks from './PinMarks';
import PointMarks from './PointMarks';
import ScoreBoard from './ScoreBoard';
import SourceMarks from './SourceMarks';

/** All that is drawn over the picture and worked with there. */
export default function OverPicture() {
    return (
        <>
            <ScoreBoard />
            <FaultMark />
            <PointMarks />
            <SourceMarks />
            <DriftMarks />
            <PinMarks />
            <ForceMarks />
            <BrushBoard />
            <LineUpMarks />
            <NoteMarks />
        </>
    );
}
