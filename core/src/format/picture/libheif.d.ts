declare module 'libheif-js/libheif-wasm/libheif-bundle.mjs';
