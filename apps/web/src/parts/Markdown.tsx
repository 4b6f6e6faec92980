import MarkdownIt from 'markdown-it';
import { useEffect, useMemo, useRef, type ReactNode } from 'react';
import { useNavigate } from 'react-router';

// HTML in a page is shown as text, and a picture as its address: both could come from a message.
const markdown = new MarkdownIt({ html: false, linkify: false, typographer: false, breaks: true }).disable('image');

/** A page's text as it reads (CommonMark). Links within Corvun stay in this window, others open beside it. */
export function Markdown({ text }: { text: string }): ReactNode {
  const navigate = useNavigate();
  const page = useRef<HTMLDivElement>(null);
  const html = useMemo(() => markdown.render(text), [text]);
  useEffect(() => {
    const here = page.current;
    for (const link of here?.querySelectorAll('a') ?? []) {
      if (/^\/(?!\/)/.test(link.getAttribute('href') ?? '')) continue;
      link.target = '_blank';
      link.rel = 'noreferrer';
    }
    const follow = (event: MouseEvent) => {
      const link = event.target instanceof Element ? event.target.closest('a') : null;
      if (!link || link.target || event.ctrlKey || event.metaKey) return;
      event.preventDefault();
      void navigate(link.getAttribute('href') ?? '/');
    };
    here?.addEventListener('click', follow);
    return () => here?.removeEventListener('click', follow);
  }, [html, navigate]);
  return <div ref={page} className="page-text select-text" dangerouslySetInnerHTML={{ __html: html }} />;
}
