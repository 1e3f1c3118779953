import type { PaperDesign } from '../designs';

/** How a client's page looks: the design that the paper has, on the ground of the client's own liking. */
export const styleOf = ({ accent, tint }: PaperDesign): string => `
@font-face{font-family:Sheet;font-weight:400;src:FONT400}
@font-face{font-family:Sheet;font-weight:700;src:FONT700}
:root{--accent:${accent};--tint:${tint};--ink:#13222b;--soft:#51636d;--rule:#c6d2d1;--sheet:#fff;--ground:#e9eeed;--good:#0b6a70;--bad:#a5281b;color-scheme:light}
@media (prefers-color-scheme:dark){:root{--accent:color-mix(in oklab,${accent} 45%,#fff);--tint:#1d2c33;--ink:#e6eeee;--soft:#a3b4ba;--rule:#3a4c54;--sheet:#15232a;--ground:#0d171c;--good:#6cc7c9;--bad:#ff9d8f;color-scheme:dark}}
*{box-sizing:border-box}
body{margin:0;background:var(--ground);color:var(--ink);font:16px/1.5 Sheet,system-ui,sans-serif;overflow-wrap:anywhere}
main{max-width:58rem;margin:2rem auto;background:var(--sheet);border-top:.5rem solid var(--accent);padding:2.25rem clamp(1rem,5vw,3.5rem) 3rem}
h1{font-size:1.05rem;margin:0;color:var(--soft);font-weight:400}
h2{font-size:1rem;margin:2.25rem 0 .5rem;padding-bottom:.35rem;border-bottom:1px solid var(--ink)}
p{margin:.25rem 0}
.soft{color:var(--soft)}
.small{font-size:.85rem}
header{display:grid;grid-template-columns:1fr minmax(15rem,auto);gap:1.5rem 3rem}
header img{max-width:12rem;max-height:4rem;display:block;margin-bottom:.75rem}
.name{font-weight:700;font-size:1.15rem}
.asked{border-left:1px solid var(--rule);padding-left:1.5rem}
.asked strong{display:block;font-size:2.1rem;line-height:1.15;font-variant-numeric:tabular-nums}
.facts{display:grid;grid-template-columns:auto 1fr;gap:0 1rem;margin:.75rem 0 0}
.facts dt{color:var(--soft)}
.facts dd{margin:0;font-weight:700}
.strip{display:flex;gap:.6rem;align-items:baseline;margin:1.75rem 0 0;padding:.6rem .9rem;background:var(--tint);border-left:3px solid var(--good)}
.strip.bad{border-color:var(--bad);color:var(--bad);font-weight:700}
.strip svg{flex:none;width:1rem;height:1rem;align-self:center}
table{width:100%;border-collapse:collapse;font-variant-numeric:tabular-nums}
th{font-weight:400;color:var(--soft);text-align:left;padding:.3rem .5rem;border-bottom:1px solid var(--accent);font-size:.85rem}
td{padding:.55rem .5rem;border-bottom:1px solid var(--rule);vertical-align:top}
th:first-child,td:first-child{padding-left:0}
th:last-child,td:last-child{padding-right:0}
.n{text-align:right;white-space:nowrap}
.head td{font-weight:700;border:0;padding-top:1.2rem}
details{margin-top:.2rem}
summary{cursor:pointer;color:var(--good);font-size:.85rem;width:fit-content}
summary:focus-visible,a:focus-visible,button:focus-visible,input:focus-visible,textarea:focus-visible,[tabindex]:focus-visible{outline:2px solid var(--good);outline-offset:2px}
.wide td{padding:0 0 .9rem;border-bottom:1px solid var(--rule)}
.made{background:var(--tint);padding:.5rem .9rem .7rem;margin-top:.4rem;overflow-x:auto;font-size:.88rem}
.made table{font-size:inherit}
.made td,.made th{padding:.2rem .5rem;overflow-wrap:break-word}
.made tr:last-child td{border:0}
.open td{border-bottom:0;padding-bottom:.1rem}
.totals{margin:1rem 0 0 auto;width:min(26rem,100%)}
.totals td{border:0;padding:.15rem 0}
.totals .strong td{border-top:1px solid var(--ink);border-bottom:3px double var(--accent);font-weight:700;font-size:1.1rem;padding:.4rem 0}
.days{display:block;width:100%;height:3.6rem;margin-top:.5rem}
.days rect{fill:var(--accent)}
.days line{stroke:var(--rule)}
.ends{display:flex;justify-content:space-between;font-size:.8rem;color:var(--soft)}
.go{display:inline-block;background:var(--accent);color:var(--sheet);font:inherit;font-weight:700;padding:.65rem 1.4rem;border:0;border-radius:2px;text-decoration:none;cursor:pointer}
.go.other{background:none;color:var(--bad);box-shadow:inset 0 0 0 1px currentColor}
.pay{display:flex;flex-wrap:wrap;gap:1.25rem 2rem;align-items:center;margin-top:1.5rem}
.pay figure{margin:0;display:flex;gap:.75rem;align-items:center}
.pay svg{width:6rem;height:6rem;background:#fff}
.rest{display:flex;height:1.4rem;margin:.6rem 0 .3rem;border:1px solid var(--ink)}
.rest span{background:var(--accent)}
.rest span+span{background:repeating-linear-gradient(135deg,var(--accent) 0 2px,transparent 2px 6px)}
form{display:grid;gap:.9rem;max-width:34rem}
label{display:block}
.choice{display:flex;gap:.6rem;border-bottom:1px solid var(--rule);padding:.4rem 0}
.choice span:last-child{margin-left:auto}
input[type=checkbox]{width:1.1rem;height:1.1rem;margin:.2rem 0 0;accent-color:var(--accent);flex:none}
input[type=text],textarea{display:block;width:100%;font:inherit;color:inherit;background:transparent;border:0;border-bottom:1px solid var(--ink);padding:.35rem .1rem}
output{font-weight:700;float:right}
.wrong{color:var(--bad);text-decoration:line-through}
[role=alert]:not(:empty){color:var(--bad);font-weight:700}
footer{margin-top:2.5rem;color:var(--soft);font-size:.85rem}
.receipt{max-width:100%;display:block;margin:.5rem 0;border:1px solid var(--rule)}
[hidden]{display:none!important}
@media (max-width:40rem){main{margin:0}header{grid-template-columns:1fr}.asked{border:0;padding:0}
.lines>thead{display:none}.lines>tbody>tr{display:grid;grid-template-columns:auto auto 1fr}.lines>tbody>tr>td{border:0;padding:.1rem 0}.lines>tbody>tr>td:first-child{grid-column:1/-1;padding-top:.6rem}.lines>tbody>tr:not(.head):not(.open){border-bottom:1px solid var(--rule);padding-bottom:.5rem}.lines>tbody>tr>.n{text-align:left;padding-right:.9rem;color:var(--soft)}.lines>tbody>tr>.n:last-child{text-align:right;color:inherit;padding-right:0}.made table{min-width:30rem}.made{margin-right:-.5rem}.lines>tbody>.wide>td{min-width:0}.pay figure{display:none}}
@media print{body{background:none}main{margin:0;padding:0}.go,form,summary{display:none}}
`;
