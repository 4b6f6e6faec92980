import Database from 'libsql';
const P = (Database as any).prototype; const o = P.exec; const m = new Map<string,[number,number]>();
P.exec = function (sql: string) { const t = performance.now(); const r = o.call(this, sql); const k = sql.slice(0, 18); const e = m.get(k) ?? [0,0]; m.set(k, [e[0]+1, e[1]+performance.now()-t]); return r; };
process.on('exit', () => { for (const [k,[n,t]] of [...m].sort((a,b)=>b[1][1]-a[1][1]).slice(0,12)) process.stdout.write(`${k.padEnd(20)} ${n} × ${(t/n).toFixed(2)} ms = ${t.toFixed(0)}\n`); });
