/** How a small button of the cue sheet looks. */
export const plate = 'quick h-[22px] shrink-0 border border-line bg-raised px-1.5 text-[12px] whitespace-nowrap hover:border-ink disabled:text-soft disabled:hover:border-line data-[on]:border-ink data-[on]:bg-chosen data-[on]:text-on-chosen';
