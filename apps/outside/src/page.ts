import type { Draft, Sent } from './send';
import { MAREN } from './letters';

const escape = (text: string) => text.replace(/[&<>"']/g, (letter) => `&#${letter.charCodeAt(0)};`);

const STYLE = `body{font:16px/24px system-ui,sans-serif;max-width:760px;margin:32px auto;padding:0 16px;color:#222;background:#f4f4f2}
h1{font-size:22px}h2{font-size:17px;margin-top:28px}label{display:block;margin-top:10px;font-size:14px}input,textarea{width:100%;font:inherit;padding:6px;border:1px solid #888;box-sizing:border-box;background:#fff}
textarea{height:170px}button{font:inherit;margin-top:12px;padding:6px 16px}li{margin:4px 0}.no{color:#a02020}`;

export interface PageContent {
  sent: Sent[];
  letters: Draft[];
  problem?: string;
}

/** The stand-in's one page: write a mail as somebody of the outside world, and see what became of it. */
export function page({ sent, letters, problem }: PageContent): string {
  const ready = letters
    .map(
      (letter) =>
        `<form method="post" action="/mail" enctype="multipart/form-data" style="display:inline">${(
          ['from', 'to', 'subject', 'text'] as const
        )
          .map((field) => `<textarea name="${field}" hidden>${escape(letter[field])}</textarea>`)
          .join('')}<button>${escape(letter.from.replace(/ <.*/, ''))}: ${escape(letter.subject)}</button></form>`,
    )
    .join(' ');
  const log = sent
    .map(
      (one) =>
        `<li class="${one.problem ? 'no' : ''}">${one.at.toISOString().slice(11, 19)} ${escape(one.subject || '(no subject)')} to ${escape(one.to)}: ${one.problem ? `refused, ${escape(one.problem)}` : 'accepted'}</li>`,
    )
    .join('');
  return `<!doctype html><html lang="en"><meta charset="utf-8"><title>The outside world</title><style>${STYLE}</style><h1>The outside world: mail</h1>
<p>Stands in for everybody who writes to Maren Holt. What is sent here goes to Corvun over SMTP.</p>${problem ? `<p class="no">${escape(problem)}</p>` : ''}
<h2>Ready to send</h2>${ready}
<h2>Write one</h2><form method="post" action="/mail" enctype="multipart/form-data">
<label>From<input name="from" required value="Hanna Vogt &lt;hanna.vogt@lower-fen.example&gt;"></label><label>To<input name="to" required value="${MAREN}"></label>
<label>Subject<input name="subject"></label><label>Text<textarea name="text"></textarea></label><label>Files<input type="file" name="files" multiple></label><button>Send</button></form>
<h2>Sent</h2><ul>${log || '<li>Nothing yet.</li>'}</ul></html>`;
}
