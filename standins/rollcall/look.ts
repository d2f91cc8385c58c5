export const escape = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

const STYLE = `
*{box-sizing:border-box}
body{margin:0;font:16px/1.55 "Noto Sans",system-ui,sans-serif;color:#22302b;background:#eef1ea}
a{color:#1f5f7a}
header{background:#25463c;color:#f4f6f0}
.wide{max-width:64rem;margin:0 auto;padding:0 1.25rem}
header .wide{display:flex;gap:1.5rem;align-items:center;height:3.5rem}
header a{color:inherit;text-decoration:none}
header .name{font:700 1.35rem "Noto Serif",Georgia,serif;letter-spacing:.01em}
nav{display:flex;gap:1.25rem}
nav a{border-bottom:2px solid transparent;padding:.2rem 0}
nav a:hover{border-color:#e0b65c}
main{background:#fff;border:1px solid #d5dccf;margin-top:1.5rem;margin-bottom:1.5rem;padding:1.75rem 2rem 2rem}
.top{display:grid;grid-template-columns:5.5rem 1fr;gap:1.5rem;align-items:start}
.face{width:5.5rem;height:5.5rem;border-radius:50%;background:#e7dcc0;color:#6b5622;display:grid;place-items:center;font:600 1.6rem "Noto Serif",Georgia,serif}
.face::before{content:attr(data-letters)}
h1{font:600 1.75rem/1.2 "Noto Serif",Georgia,serif;margin:.1rem 0 .3rem}
h1 a{color:inherit;text-decoration:none}
h2{font-size:1.05rem;font-weight:500;margin:0 0 .8rem;color:#46584f}
ul,ol{list-style:none;margin:1rem 0 0;padding:0}
li{padding:.8rem 0;border-top:1px solid #e4e9df}
li a{font-weight:600}
small,time{color:#5c6d64;font-size:.85rem}
form{display:flex;gap:.5rem;margin:1rem 0}
input,textarea{font:inherit;padding:.4rem .6rem;border:1px solid #b9c4b4;flex:1;min-width:0}
button{font:inherit;padding:.4rem 1rem;border:0;background:#25463c;color:#fff}
.h-entry{max-width:40rem}
.h-entry p{margin:.2rem 0 0}
.more{margin-top:1.5rem;display:flex;gap:1.25rem;flex-wrap:wrap}
footer{color:#5c6d64;font-size:.85rem;padding-bottom:2rem}
@media(max-width:40rem){.top{grid-template-columns:1fr}main{padding:1.25rem}}
`;

/** A page in the site's dress. @param head what stands in the document's head beside it */
export const page = (title: string, head: string, body: string): string =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>${escape(title)}</title><style>${STYLE}</style>${head}</head><body><header><div class="wide"><a class="name" href="/">Rollcall</a><nav><a href="/people">People</a></nav></div></header><main class="wide">${body}</main><footer class="wide">The directory of people who move things.</footer></body></html>`;

const lettersOf = (name: string): string =>
  name
    .split(' ')
    .map((word) => word[0] ?? '')
    .filter((_, at, all) => at === 0 || at === all.length - 1)
    .join('');

/** What somebody says of themselves, beside their initials, which are drawn and not written. */
export const besideFace = (name: string, said: string): string =>
  `<div class="top"><div class="face" data-letters="${escape(lettersOf(name))}"></div><div>${said}</div></div>`;
