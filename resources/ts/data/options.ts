import type { Entry, Option } from './api';

/** Whether an option is of any use with the other values as they are. */
export function applies(option: Option, options: readonly Option[], values: Record<string, unknown>): boolean {
    if (option.with === '') return true;
    return option.with.split('|').some((need) => {
        const [name, wanted] = need.split(/[=>]/);
        const other = options.find((o) => o.name === name);
        const value = values[name!] ?? other?.default ?? null;
        return (other === undefined || applies(other, options, values)) && (wanted === undefined ? value !== null && value !== 0 && value !== '' : need.includes('>') ? Number(value) > Number(wanted) : value === wanted);
    });
}

/** Every option at its default, or at what suits the prop's size better. */
export function defaultsOf(entry: Entry | undefined, suited: Record<string, unknown> = {}): Record<string, unknown> {
    return { ...Object.fromEntries((entry?.options ?? []).filter((o) => o.default !== null).map((o) => [o.name, o.default])), ...suited };
}

/** What a choice is called. */
export function words(choice: string): string {
    return choice.length === 1 ? choice : choice.charAt(0).toUpperCase() + choice.slice(1).replace(/-/g, ' ');
}
