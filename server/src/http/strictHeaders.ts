import type { Context, Next } from 'koa';

/**
 * What the browser may do with anything from here: run and fetch only what this server hands out. Pictures are shown
 * from memory (blob:), and nothing may frame the application. The decoder of HEIC is WebAssembly, which needs its own
 * leave; code made from text stays forbidden.
 */
export const CONTENT_POLICY = [
  "default-src 'none'",
  "script-src 'self' 'wasm-unsafe-eval'",
  // The hash is that of an empty style element, which the charts put into the page and fill rule by rule.
  "style-src 'self' 'sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU='",
  "img-src 'self' blob:",
  "font-src 'self'",
  "connect-src 'self'",
  "worker-src 'self'",
  "manifest-src 'self'",
  "base-uri 'none'",
  "form-action 'none'",
  "frame-ancestors 'none'",
].join('; ');

export async function strictHeaders(context: Context, next: Next): Promise<void> {
  context.set({
    'Content-Security-Policy': CONTENT_POLICY,
    'Cross-Origin-Opener-Policy': 'same-origin',
    'Cross-Origin-Embedder-Policy': 'require-corp',
    'Cross-Origin-Resource-Policy': 'same-origin',
    'Permissions-Policy': 'camera=(), microphone=(), geolocation=()',
    'Referrer-Policy': 'no-referrer',
    'X-Content-Type-Options': 'nosniff',
  });
  await next();
}
