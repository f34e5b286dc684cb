import type { PropPieces } from '../data/pieces';
import { useUi } from '../data/ui';
import { Button, Fact } from '../parts/controls';
import { show, showNumber } from '../data/quantity';
import { PieceSizes } from '../parts/PieceSizes';

/** The figures a break is judged by, with what will be trouble named and picked at a press. */
export function Judge({ pieces, density }: { pieces: PropPieces; density: number }) {
    const f = pieces.figures;
    const picked = useUi((s) => s.picked);
    const volume = picked.reduce((sum, i) => sum + (pieces.pieces[i]?.volume ?? 0), 0);
    const set = useUi((s) => s.set);
    return (
        <section className="border-t border-line px-4 py-3">
            <PieceSizes pieces={pieces} />
            <div className="mt-2 grid grid-cols-2 gap-x-3">
                <Fact name="pieces">{f.pieces.toLocaleString('en')}</Fact>
                <Fact name="watertight" tone={f.watertight === f.pieces ? 'fine' : 'wrong'}>{f.watertight}/{f.pieces}</Fact>
                <Fact name="volume">{show(f.volume, 'm³')}</Fact>
                <Fact name="median">{show(f.median, 'm³')}</Fact>
                <Fact name="evenness">{Math.round(100 * f.evenness)} %</Fact>
                <Fact name="thinnest">{show(f.thinnest, 'm')}</Fact>
                <Fact name="inner area">{show(f.interior_area, 'm²')}</Fact>
                <Fact name="triangles">{f.triangles.toLocaleString('en')}</Fact>
            </div>
            <Fact name="largest ÷ median" tone={f.largest_to_median > 8 ? 'doubt' : undefined}>{showNumber(f.largest_to_median, 2)}</Fact>
            <Trouble pieces={f.slivers} one="piece is a needle or sliver" many="pieces are needles or slivers" />
            <Trouble pieces={f.giants} one="piece is far larger than the rest" many="pieces are far larger than the rest" />
            <Trouble pieces={f.heavy} one="piece has thousands of triangles" many="pieces have thousands of triangles" />
            {picked.length > 0 && (
                <p className="mt-2 flex items-center justify-between gap-2">
                    <span className="min-w-0 truncate">{picked.length === 1 ? pieces.pieces[picked[0]!]?.name : `${picked.length} picked`}, {show(volume, 'm³')}, {show(volume * density, 'kg')}</span>
                    <Button onClick={() => set({ picked: [] })}>Clear</Button>
                </p>
            )}
        </section>
    );
}

function Trouble({ pieces, one, many }: { pieces: number[]; one: string; many: string }) {
    const set = useUi((s) => s.set);
    if (pieces.length === 0) return null;
    return (
        <p className="mt-2 flex items-center justify-between gap-2 text-doubt">
            <span>▲ {pieces.length} {pieces.length === 1 ? one : many}</span>
            <Button onClick={() => set({ picked: pieces })}>Show</Button>
        </p>
    );
}
