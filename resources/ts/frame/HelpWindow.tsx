import { useQuery } from '@tanstack/react-query';
import { marked, Renderer, type Tokens } from 'marked';
import { useEffect, useMemo, useRef } from 'react';
import { api } from '../data/api';
import { anchorOf, linkIn, useHelp } from '../data/help';
import { Window } from '../parts/controls';

/** A page of the docs, read beside the work. */
export function HelpWindow() {
    const { page, at, open, close } = useHelp();
    const { data } = useQuery({ queryKey: ['help', page], queryFn: () => api.help(page!), enabled: page !== null, staleTime: Infinity });
    const html = useMemo(() => (data === undefined || page === null ? null : rendered(data, page)), [data, page]);
    const box = useRef<HTMLDivElement>(null);
    useEffect(() => {
        if (html !== null) (at === '' ? null : box.current?.querySelector(`[id="help-${CSS.escape(at)}"]`))?.scrollIntoView();
    }, [html, at]);
    const title = data?.match(/^# (.+)$/m)?.[1] ?? 'Help';
    return (
        <Window open={page !== null} onClose={close} title={title} wide>
            {html === null ? <p className="text-soft">…</p> : (
                <div
                    ref={box}
                    className="docs"
                    onClick={(e) => {
                        const to = (e.target as HTMLElement).closest('[data-page]')?.getAttribute('data-page');
                        if (to == null) return;
                        e.preventDefault();
                        open(to);
                    }}
                    dangerouslySetInnerHTML={{ __html: html }}
                />
            )}
            <p className="mt-4 flex gap-3 border-t border-line pt-2 text-soft">
                {PAGES.map(([name, label]) => <button key={name} type="button" className={`hover:text-ink ${name === page ? 'font-semibold text-ink' : ''}`} onClick={() => open(name)}>{label}</button>)}
            </p>
        </Window>
    );
}

const PAGES: readonly [string, string][] = [['props', 'Props'], ['patterns', 'Break'], ['weights', 'Weights'], ['release-and-drift', 'Motion'], ['trials', 'Trials'], ['hand-off', 'Hand-off'], ['working-day', 'A working day']];

const escaped = (text: string) => text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/** Our own pages as HTML; of what is HTML in them nothing is taken over, and links lead to other pages only. */
function rendered(text: string, page: string): string {
    const renderer = new Renderer();
    renderer.html = ({ text: raw }: Tokens.HTML | Tokens.Tag) => escaped(raw);
    renderer.heading = function ({ tokens, depth, text: words }: Tokens.Heading) {
        return depth === 1 ? '' : `<h${depth + 1} id="help-${escaped(anchorOf(words))}">${this.parser.parseInline(tokens)}</h${depth + 1}>`;
    };
    renderer.link = function ({ href, tokens }: Tokens.Link) {
        const to = linkIn(page, href);
        const inner = this.parser.parseInline(tokens);
        return to === null ? inner : `<a href="#" data-page="${escaped(to)}">${inner}</a>`;
    };
    renderer.image = ({ href, text: words }: Tokens.Image) => {
        const found = /^([a-z]+)\/([a-z0-9-]+)\.png$/.exec(href);
        return found === null ? '' : `<img src="api/help/${found[1]}/${found[2]}" alt="${escaped(words)}">`;
    };
    return marked.parse(text, { renderer, async: false, gfm: true });
}
