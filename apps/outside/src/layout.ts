/** Text in HTML, without doing anything there. */
export const escape = (text: string | number | null | undefined): string =>
  String(text ?? '').replace(/[&<>"']/g, (letter) => `&#${letter.charCodeAt(0)};`);

const STYLE = `body{font:16px/24px system-ui,sans-serif;max-width:860px;margin:24px auto 80px;padding:0 16px;color:#222;background:#f4f4f2}
h1{font-size:22px}h2{font-size:17px;margin-top:28px}nav{display:flex;gap:16px;flex-wrap:wrap;border-bottom:1px solid #bbb;padding-bottom:8px}
label{display:block;margin-top:8px;font-size:14px}input,textarea,select{font:inherit;padding:5px;border:1px solid #888;box-sizing:border-box;background:#fff;max-width:100%}
label input,label textarea,label select{width:100%}textarea{height:150px}button{font:inherit;margin:4px 4px 4px 0;padding:4px 12px}li{margin:6px 0}.no{color:#a02020}.soft{color:#666;font-size:14px}
table{border-collapse:collapse;width:100%}td,th{border-bottom:1px solid #ccc;text-align:left;padding:5px 8px 5px 0;vertical-align:top;font-size:14px}form.inline{display:inline}`;

const PAGES = [
  ['/', 'Mail'],
  ['/chat', 'Chat'],
  ['/tracker', 'Tracker'],
  ['/calendars', 'Calendars'],
  ['/account', 'Calendar account'],
  ['/notes', 'Notes folder'],
  ['/web', 'A web page'],
];

/** A page of the outside world. */
export function layout(title: string, body: string): string {
  const links = PAGES.map(([path, name]) => `<a href="${path}">${name}</a>`).join('');
  return `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>The outside world: ${escape(title)}</title><style>${STYLE}</style><nav>${links}</nav><h1>${escape(title)}</h1>${body}</html>`;
}

/** A button that posts some fields. */
export function button(action: string, name: string, fields: Record<string, string> = {}): string {
  const hidden = Object.entries(fields)
    .map(([key, value]) => `<input type="hidden" name="${escape(key)}" value="${escape(value)}">`)
    .join('');
  return `<form class="inline" method="post" action="${escape(action)}">${hidden}<button>${escape(name)}</button></form>`;
}
