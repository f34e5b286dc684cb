import { Dialog, RadioGroup, Tooltip } from 'radix-ui';
import type { ComponentProps, ReactNode } from 'react';

export function Section({ title, aside, children }: { title: string; aside?: ReactNode; children: ReactNode }) {
    return (
        <section className="border-t border-line px-4 py-3 first:border-t-0">
            <header className="mb-1.5 flex items-baseline justify-between gap-2">
                <h3 className="font-semibold">{title}</h3>
                {aside !== undefined && <span className="figure text-[11px] text-soft">{aside}</span>}
            </header>
            {children}
        </section>
    );
}

type ButtonProps = ComponentProps<'button'> & { tone?: 'plain' | 'loud' | 'dark'; hint?: string };

export function Button({ tone = 'plain', hint, className = '', ...rest }: ButtonProps) {
    const tones = {
        plain: 'border border-line bg-raised hover:border-ink disabled:text-soft disabled:hover:border-line',
        loud: 'bg-loud text-bar font-semibold hover:brightness-95 disabled:bg-line disabled:text-soft',
        dark: 'bg-bar text-[#f6f4ef] hover:bg-[#323a40]',
    };
    const button = <button type="button" className={`quick inline-flex h-[29px] items-center justify-center gap-1.5 px-3 whitespace-nowrap ${tones[tone]} ${className}`} {...rest} />;
    return hint ? <Hint text={hint}>{button}</Hint> : button;
}

export function Hint({ text, children }: { text: string; children: ReactNode }) {
    return (
        <Tooltip.Root>
            <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
            <Tooltip.Portal>
                <Tooltip.Content sideOffset={5} className="z-50 max-w-64 bg-bar px-2 py-1 text-[12px] text-[#f6f4ef]">
                    {text}
                </Tooltip.Content>
            </Tooltip.Portal>
        </Tooltip.Root>
    );
}

/** One of a few, side by side. */
export function Choice<T extends string>(props: { label: string; value: T; options: readonly { value: T; label: string; hint?: string }[]; onChange: (v: T) => void; fill?: boolean }) {
    return (
        <RadioGroup.Root aria-label={props.label} value={props.value} onValueChange={(v) => props.onChange(v as T)} orientation="horizontal" className="inline-flex w-fit border border-line bg-raised data-[fill]:w-full" data-fill={props.fill || undefined}>
            {props.options.map((o) => (
                <RadioGroup.Item key={o.value} value={o.value} title={o.hint} className="quick h-[27px] flex-auto px-2.5 hover:bg-[var(--wash)] data-[state=checked]:bg-chosen data-[state=checked]:text-on-chosen">
                    {o.label}
                </RadioGroup.Item>
            ))}
        </RadioGroup.Root>
    );
}

export function Select<T extends string>(props: { label: string; value: T; options: readonly { value: T; label: string }[]; onChange: (v: T) => void }) {
    return (
        <label className="flex h-[31px] items-center gap-2">
            <span className="w-[108px] shrink-0">{props.label}</span>
            <select aria-label={props.label} value={props.value} onChange={(e) => props.onChange(e.target.value as T)} className="h-[26px] min-w-0 flex-1 border border-line bg-raised px-1.5">
                {props.options.map((o) => (
                    <option key={o.value} value={o.value}>{o.label}</option>
                ))}
            </select>
        </label>
    );
}

export function Toggle(props: { label: string; value: boolean; onChange: (v: boolean) => void; hint?: string }) {
    return (
        <label className="flex h-[29px] items-center gap-2" title={props.hint}>
            <input type="checkbox" checked={props.value} onChange={(e) => props.onChange(e.target.checked)} className="size-4 accent-[var(--ink)]" />
            <span>{props.label}</span>
        </label>
    );
}

export function Colour({ label, value, onChange }: { label: string; value: string; onChange: (v: string) => void }) {
    return (
        <label className="flex h-[31px] items-center gap-2">
            <span className="w-[108px]">{label}</span>
            <span className="flex-1" />
            <span className="figure text-[12px] text-soft">{value}</span>
            <input key={value} type="color" aria-label={`${label} colour`} defaultValue={value} onBlur={(e) => e.target.value !== value && onChange(e.target.value)} className="h-[25px] w-[40px] border border-line bg-raised" />
        </label>
    );
}

/** Name and figure on one dotted line. */
export function Fact({ name, tone, children }: { name: string; tone?: 'fine' | 'doubt' | 'wrong'; children: ReactNode }) {
    const mark = tone === 'doubt' ? '▲ ' : tone === 'wrong' ? '✕ ' : '';
    const colour = tone === 'doubt' ? 'text-doubt' : tone === 'wrong' ? 'text-wrong' : '';
    return (
        <div className={`figure flex items-baseline justify-between gap-2 border-b border-dotted border-line py-[3px] text-[12px] ${colour}`}>
            <span>{mark}{name}</span>
            <span className="font-medium whitespace-nowrap">{children}</span>
        </div>
    );
}

export function Window({ open, onClose, title, children, wide }: { open: boolean; onClose: () => void; title: string; children: ReactNode; wide?: boolean }) {
    return (
        <Dialog.Root open={open} onOpenChange={(o) => !o && onClose()}>
            <Dialog.Portal>
                <Dialog.Overlay className="fixed inset-0 z-40 bg-[#14181b]/45" />
                <Dialog.Content aria-describedby={undefined} className={`fixed top-[12vh] left-1/2 z-50 max-h-[76vh] -translate-x-1/2 overflow-auto border border-line bg-paper p-5 ${wide ? 'w-[620px]' : 'w-[420px]'}`}>
                    <Dialog.Title className="mb-3 text-[16px] font-bold">{title}</Dialog.Title>
                    {children}
                </Dialog.Content>
            </Dialog.Portal>
        </Dialog.Root>
    );
}

/** Something wrong, in words, with what to do. */
export function Fault({ message, remedy, children }: { message: string; remedy?: string; children?: ReactNode }) {
    return (
        <div role="alert" className="border-l-4 border-wrong bg-raised px-3 py-2">
            <p className="font-medium text-wrong">✕ {message}</p>
            {remedy && <p className="mt-0.5">{remedy}</p>}
            {children}
        </div>
    );
}
