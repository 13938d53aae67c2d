// by hand: purposes share names with elements, so that only the library and its tools are public.
export { footer } from './footer';
export { header } from './header';
export { SECTIONS } from './library';
export * from './plan';
export { popUpSection } from './popUp';
