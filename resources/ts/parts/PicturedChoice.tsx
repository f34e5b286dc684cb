import { ChevronDown } from 'lucide-react';
import { Popover, RadioGroup } from 'radix-ui';
import { useState } from 'react';
import type { Option } from '../data/api';
import { words } from '../data/options';

const PICTURES = import.meta.glob<string>('../../pictures/*/*.png', { eager: true, query: '?url', import: 'default' });

/** One of several that are chosen by how they look. */
export function PicturedChoice({ option: o, value, onChange }: { option: Option; value: string; onChange: (value: string) => void }) {
    const [open, setOpen] = useState(false);
    const notes = (o.notes ?? {}) as Record<string, string>;
    const picture = (choice: string) => PICTURES[`../../pictures/${o.pictures}/${choice.replace(/ /g, '-')}.png`];
    const own = picture(value);
    return (
        <div className="flex min-h-[40px] items-center gap-2" title={o.meaning}>
            <span className="w-[108px] shrink-0">{o.label}</span>
            <Popover.Root open={open} onOpenChange={setOpen}>
                <Popover.Trigger aria-label={`${o.label}: ${words(value)}`} className="flex h-[34px] min-w-0 flex-1 items-center gap-2 border border-line bg-raised pr-1.5 text-left">
                    {own !== undefined && <img src={own} alt="" className="h-[32px] w-[45px] object-cover" />}
                    <span className="min-w-0 flex-1 truncate first:pl-1.5">{words(value)}</span>
                    <ChevronDown size={13} aria-hidden />
                </Popover.Trigger>
                <Popover.Portal>
                    <Popover.Content sideOffset={4} align="end" collisionPadding={8} className="z-50 max-h-[var(--radix-popover-content-available-height)] w-[420px] overflow-auto border border-line bg-paper p-2 text-ink">
                        <RadioGroup.Root aria-label={o.label} value={value} onValueChange={onChange} className="grid grid-cols-3 gap-1.5">
                            {o.choices.map((choice) => (
                                <RadioGroup.Item key={choice} value={choice} onClick={() => setOpen(false)} className="flex flex-col border border-line bg-raised text-left data-[state=checked]:border-ink data-[state=checked]:outline data-[state=checked]:outline-ink">
                                    {picture(choice) === undefined ? <span className="grid aspect-[7/5] w-full place-items-center text-soft">{words(choice)}</span> : <img src={picture(choice)} alt="" className="aspect-[7/5] w-full object-cover" />}
                                    <span className="px-1.5 pt-1 font-medium">{words(choice)}</span>
                                    <span className="figure px-1.5 pb-1 text-[10.5px] leading-tight text-soft">{notes[choice]}</span>
                                </RadioGroup.Item>
                            ))}
                        </RadioGroup.Root>
                    </Popover.Content>
                </Popover.Portal>
            </Popover.Root>
        </div>
    );
}
