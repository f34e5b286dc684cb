import { useUi } from '../data/ui';

export function BenchHead({ title, under }: { title: string; under: string }) {
    const also = useUi((s) => s.also.length);
    return (
        <header className="px-4 pt-3 pb-2.5">
            <h2 className="text-[16px] leading-5 font-bold">{title}</h2>
            <p className="text-soft">{under}</p>
            {also > 0 && <p role="status" className="mt-1 border-l-2 border-ink pl-2">And {also === 1 ? 'one more' : `${also} more`}: what is set here is set for all {also + 1}, where they are alike.</p>}
        </header>
    );
}

export function ChooseFirst({ what }: { what: string }) {
    return <p className="px-4 py-6 text-soft">Choose a prop in the strip above the stage to {what}, or add one with +.</p>;
}
