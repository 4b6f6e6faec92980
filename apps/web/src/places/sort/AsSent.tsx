import { useState, type ReactNode } from 'react';

const FRAME_STYLE = `:root{color-scheme:light}body{margin:0;padding:4px 2px 24px;font:15px/23px system-ui,sans-serif;color:#1C2128;background:#FFFDF7;overflow-wrap:anywhere}img{max-width:100%;height:auto}table{border-collapse:collapse;max-width:100%}td,th{padding:2px 6px;vertical-align:top}a{color:#0F6A6C}blockquote{margin:0 0 0 8px;padding-left:8px;border-left:2px solid #DDD6C6}`;

/**
 * The cleaned HTML in a frame of its own: no scripts, no forms, no way out but links that open elsewhere.
 * The policy in it is the second lock: even markup that slipped through cleaning could load nothing.
 */
export function AsSent({ html, title }: { html: string; title: string }): ReactNode {
  const [height, setHeight] = useState(240);
  const policy = `default-src 'none'; img-src 'self' data:; style-src 'unsafe-inline'; form-action 'none'; base-uri 'none'`;
  const page = `<!doctype html><html><head><meta http-equiv="Content-Security-Policy" content="${policy}"><meta name="referrer" content="no-referrer"><style>${FRAME_STYLE}</style></head><body>${html}</body></html>`;
  return (
    <div className="mx-8 bg-[#FFFDF7] px-3 @max-[560px]/sheet:mx-4">
      <iframe
        title={`${title}, as it was sent`}
        sandbox="allow-same-origin allow-popups allow-popups-to-escape-sandbox"
        srcDoc={page}
        className="w-full border-0"
        style={{ height }}
        onLoad={(event) =>
          setHeight(Math.min(6000, (event.currentTarget.contentDocument?.documentElement.scrollHeight ?? 240) + 8))
        }
      />
    </div>
  );
}
