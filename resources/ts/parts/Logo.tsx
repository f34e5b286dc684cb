export function Logo() {
    return (
        <span className="flex items-center text-[16px] font-extrabold tracking-[0.06em]" aria-label="Yard Break">
            YARD
            <svg viewBox="0 0 14 20" className="mx-0.5 h-[18px]" aria-hidden><path d="M0 1h7v7H0zM7 8h7v7H7zM3 15h4v4H3z" fill="#c8f031" /></svg>
            BREAK
        </span>
    );
}
