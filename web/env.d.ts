/// <reference types="vite/client" />
declare module '*.css';
declare module '@fontsource-variable/commissioner';
declare module '@fontsource-variable/literata';
