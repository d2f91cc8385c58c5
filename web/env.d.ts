/// <reference types="vite/client" />
declare module '*.css';
declare module '@fontsource-variable/commissioner';
declare module '@fontsource-variable/literata';

declare module 'plotly.js-basic-dist-min' {
  export * from 'plotly.js';
}
