import { cleanHtml, sayHeldBack } from './html';

const clean = (html: string) => cleanHtml(html, () => null);

describe('cleanHtml', () => {
  it.each([
    '<script>alert(1)</script>',
    '<img src=x onerror=alert(1)>',
    '<svg onload=alert(1)><script>1</script></svg>',
    '<a href="javascript:alert(1)">x</a>',
    '<a href=" JaVaScRiPt:alert(1)">x</a>',
    '<a href="data:text/html,<script>1</script>">x</a>',
    '<iframe src="https://x.example"></iframe>',
    '<object data="x"></object>',
    '<embed src="x">',
    '<form action="https://x.example"><input><button>go</button></form>',
    '<base href="https://x.example/">',
    '<meta http-equiv="refresh" content="0;url=https://x.example">',
    '<link rel=stylesheet href="https://x.example/a.css">',
    '<style>@import "https://x.example"; *{position:fixed}</style>',
    '<div style="position:fixed;background:url(https://x.example)">x</div>',
    '<img src="https://x.example/pixel.gif">',
    '<img src="//x.example/pixel.gif">',
    '<img srcset="https://x.example/a 2x">',
    '<video src="https://x.example"></video>',
    '<math><mtext><script>1</script></mtext></math>',
    '<table background="https://x.example/a.png"><tr><td>x</td></tr></table>',
    '<img src="data:image/svg+xml;base64,PHN2Zz4=">',
    '<input type=image src="https://x.example">',
    '<noscript><p title="</noscript><img src=x onerror=alert(1)>"></noscript>',
    '<p id="root" class="fixed" onclick="x()">x</p>',
  ])('lets nothing of %s run, send or load', (hostile) => {
    const { html } = clean(`<p>before</p>${hostile}<p>after</p>`);
    expect(html).toContain('before');
    expect(html).not.toMatch(
      /<(?:script|svg|iframe|object|embed|form|input|button|base|meta|link|style|video|math|noscript)|\son\w+=|javascript:|x\.example|style=|srcset|background=|svg\+xml|\sid=|\sclass=/i,
    );
  });

  it('keeps the words, their shape, and links that open elsewhere without telling from where', () => {
    expect(clean('<h1>Gate</h1><table><tr><td colspan="2">1</td></tr></table><a href="https://fen.example/a">map</a>').html).toBe(
      '<h1>Gate</h1><table><tr><td colspan="2">1</td></tr></table><a href="https://fen.example/a" target="_blank" rel="noopener noreferrer nofollow">map</a>',
    );
  });

  it('says in one line what was held back', () => {
    const { heldBack } = clean(
      '<img src="https://x.example/1"><img src="https://x.example/2"><script>1</script><form></form><a href="javascript:1">x</a>',
    );
    expect(sayHeldBack(heldBack)).toBe(
      'Held back: 2 remote pictures, one script or active part, one form part, one unsafe link.',
    );
    expect(sayHeldBack(clean('<p>fine</p>').heldBack)).toBe('');
  });

  it('survives very deep nesting', () => {
    expect(clean('<div>'.repeat(5000) + 'x').html.length).toBeLessThan(5000);
  });
});
