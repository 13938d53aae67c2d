import { type FrameLook, lookCss } from './look';

/** The frame with the card fields. It alone sees the number; the page around it gets a token by `postMessage`. */
export function fieldsPage(parentOrigin: string, look: FrameLook): string {
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Card details</title><style>
${lookCss(look)}
*{box-sizing:border-box}body{margin:0;padding:2px;font:1.02rem/1.4 var(--family);color:var(--label);background:transparent}
form{display:grid;grid-template-columns:1fr 1fr;gap:.6rem .875rem}label{display:block;font-weight:var(--label-weight);font-size:var(--label-size);margin-bottom:.3rem}
.wide{grid-column:1/-1}input{width:100%;height:3rem;padding:.6rem .8rem;font:inherit;color:var(--ink);border:var(--line);border-radius:var(--corner);background:var(--ground);font-variant-numeric:tabular-nums}
input:focus-visible{outline:3px solid var(--focus);outline-offset:-1px}input[aria-invalid]{border:2px solid #b3261e}</style></head><body><main>
<form id="card" novalidate><div class="wide"><label for="number">Card number</label><input id="number" inputmode="numeric" autocomplete="cc-number" maxlength="23" placeholder="9000 0000 0000 0019"></div>
<div><label for="expiry">Expires</label><input id="expiry" inputmode="numeric" autocomplete="cc-exp" maxlength="7" placeholder="MM / YY"></div>
<div><label for="code">Code</label><input id="code" inputmode="numeric" autocomplete="cc-csc" maxlength="4" placeholder="123"></div></form></main>
<script>
const parentOrigin=${JSON.stringify(parentOrigin).replaceAll('<', '\\u003c')};
const field=(id)=>document.getElementById(id);
const digits=(text)=>text.replace(/\\D/g,'');
field('number').addEventListener('input',(e)=>{e.target.value=digits(e.target.value).slice(0,19).replace(/(.{4})(?=.)/g,'$1 ')});
field('expiry').addEventListener('input',(e)=>{const d=digits(e.target.value).slice(0,4);e.target.value=d.length>2?d.slice(0,2)+' / '+d.slice(2):d});
document.getElementById('card').addEventListener('submit',(e)=>e.preventDefault());
function luhn(n){let s=0;[...n].reverse().forEach((c,i)=>{let d=+c;if(i%2){d*=2;if(d>9)d-=9}s+=d});return n.length>=12&&s%10===0}
function problem(){
 const d=digits(field('expiry').value),month=+d.slice(0,2),year=2000+ +d.slice(2);
 const wrong={number:!luhn(digits(field('number').value))&&'Check the card number: a digit is missing or wrong.',
  expiry:(d.length!==4||month<1||month>12)?'Write when the card expires as month and year, for example 11 / 29.':(new Date(year,month,1)<=new Date()&&'This card has expired. Use another card.'),
  code:!/^\\d{3,4}$/.test(field('code').value)&&'Enter the three digits from the back of the card.'};
 let first=null;
 for(const id of ['number','expiry','code']){if(wrong[id]){field(id).setAttribute('aria-invalid','true');first=first||id}else field(id).removeAttribute('aria-invalid')}
 if(first)field(first).focus();
 return first&&wrong[first];
}
addEventListener('message',async(event)=>{
 if(event.origin!==parentOrigin||event.data?.kind!=='make-token')return;
 const answer=(body)=>event.source.postMessage({kind:'card-token',...body},parentOrigin);
 const message=problem();
 if(message)return answer({message});
 try{
  const response=await fetch('/quayside/v1/tokens',{method:'POST',headers:{'content-type':'application/json'},body:JSON.stringify({number:digits(field('number').value)})});
  const body=await response.json();
  answer(response.ok?{token:body.token}:{message:body.message});
 }catch{answer({message:'The card processor cannot be reached. Nothing was charged. Try again in a minute.'})}
});
</script></body></html>`;
}
