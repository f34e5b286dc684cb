import { useWall, type WallPicture } from '../data/wall';
import { Section, Select } from '../parts/controls';
import { BenchHead } from '../stages/BenchHead';
import { Differences } from './Differences';
import { HowBeside } from './HowBeside';

/** Which two bakes are looked at, and how. */
export function CompareBench({ pictures }: { pictures: readonly WallPicture[] }) {
    const shown = useWall((s) => s.shown);
    const options = pictures.map((p) => ({ value: p.key, label: p.words }));
    if (pictures.length < 2) {
        return <BenchHead title="Bakes compared" under={pictures.length === 0 ? 'The shot has no bake yet.' : 'The shot has one bake so far. Change something, bake again, and hold the two against each other here.'} />;
    }
    // What was before comes first.
    const [before, after] = [shown[0] ?? pictures[1]!.key, shown[1] ?? pictures[0]!.key];
    return (
        <>
            <BenchHead help="trials#comparing-bakes" title="Bakes compared" under={`${pictures.length} bakes of the shot are kept`} />
            <Section title="Which">
                <Select label="First" value={before} options={options} onChange={(v) => useWall.getState().show([v, after])} />
                <Select label="Second" value={after} options={options} onChange={(v) => useWall.getState().show([before, v])} />
                <HowBeside />
            </Section>
            <Differences pictures={pictures} />
        </>
    );
}
