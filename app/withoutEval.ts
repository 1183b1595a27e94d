import type { Plugin } from 'vite';

/**
 * The modelling kernel's glue makes two kinds of functions from text, which the content policy forbids (server,
 * `strictHeaders.ts`): callers of C++ functions, and callers of values of JavaScript from C++. Both are put in as plain
 * functions that do the same. The package is pinned to the version whose text stands here; another one fails the build.
 */
const SWAPS: readonly { from: RegExp; to: string }[] = [
  {
    // What it closes over: d = [name, fault, invoker, fn, run destructors, from result, to this, to each argument …, destructor of
    // each …]; k: a method; m: destructors are gathered; c: it returns something; e: how many arguments; b: their types.
    from: /b=\(new Function\(q,n\+"\}\\n"\)\)\(\.\.\.d\);return Yb\(a,b\)/,
    to: `b=((d,isMethod,gathers,returns,count,types)=>{
const [,,invoker,fn,run,result,self,...rest]=d,to=rest.slice(0,count),ends=rest.slice(count);
return function(...args){
const gathered=gathers?[]:null,wired=[];
if(isMethod)wired.push(self(gathered,this));
for(let i=0;i<count;i++)wired.push(to[i](gathered,args[i]));
const rv=invoker(fn,...wired);
if(gathers)run(gathered);
else for(let h=isMethod?1:2,j=0;h<types.length;h++)if(types[h].mb!==null)ends[j++](wired[isMethod?h-1:h-2]);
if(returns)return result(rv)}})(d,k,m,c,e,b);return Yb(a,b)`,
  },
  {
    // f reads each argument, 8 bytes apart; c: 0 a function, 1 a method, 2 a constructor, 3 a plain value; d: what it returns.
    from: /var h=\{toValue:Z\};a=f\.map\(\(m,l\)=>[\s\S]*?c=\(new Function\(Object\.keys\(h\),k\)\)\(\.\.\.Object\.values\(h\)\);/,
    to: `var kind=c,k;c=(handle,methodName,destructorsRef,args)=>{
const values=f.map((read,l)=>read(args+8*l));
const value=kind===3?values[values.length-1]:kind===2?new (Z(handle))(...values):kind===1?Z(handle)[ed(methodName)](...values):Z(handle)(...values);
if(!d.uc)return cd(b,destructorsRef,value)};`,
  },
];

/** The glue's text without functions made from text. */
export function withoutEval(code: string): string {
  let text = code;
  for (const { from, to } of SWAPS) {
    if (!from.test(text)) throw new Error('The modelling kernel is not the version that withoutEval.ts knows.');
    text = text.replace(from, () => to);
  }
  if (/new Function/.test(text)) throw new Error('The modelling kernel still makes functions from text.');
  return text;
}

export const kernelWithoutEval = (): Plugin => ({
  name: 'kernel-without-eval',
  enforce: 'pre',
  transform(code, id) {
    return /replicad-opencascadejs[\\/]dist[\\/]replicad_single\.js(\?|$)/.test(id)
      ? { code: withoutEval(code), map: null }
      : null;
  },
});
