export function BenchHead({ title, under }: { title: string; under: string }) {
    return (
        <header className="px-4 pt-3 pb-2.5">
            <h2 className="text-[16px] leading-5 font-bold">{title}</h2>
            <p className="text-soft">{under}</p>
        </header>
    );
}

export function ChooseFirst({ what }: { what: string }) {
    return <p className="px-4 py-6 text-soft">Choose a prop in the strip above the stage to {what}, or add one with +.</p>;
}
