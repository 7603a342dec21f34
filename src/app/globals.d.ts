declare module '@fontsource/*';
declare module '@fontsource-variable/*';
declare module '*.css';
