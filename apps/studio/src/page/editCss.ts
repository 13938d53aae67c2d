/** Style of what the editor adds to a page on its canvas; the page's own style stays as visitors see it. */
export const EDIT_CSS = `
html{scroll-behavior:auto}
body{overflow:hidden}
.edit-section[data-selected]{outline:3px solid #F4C20D;outline-offset:-3px}
:where(.edit-element){position:relative;display:flex;flex-direction:column;align-items:inherit;align-self:stretch;min-width:0;cursor:pointer}
.edit-element:hover{outline:1.5px dashed #8a8f99;outline-offset:3px}
.edit-element[data-selected]{outline:2px solid #F4C20D;outline-offset:4px}
.edit-section[data-conditional]{box-shadow:inset 6px 0 0 #6A4BA3}.edit-element[data-conditional]{box-shadow:-8px 0 0 -4px #6A4BA3}
.edit-tag{position:absolute;left:-4px;top:-26px;z-index:4;background:#F4C20D;color:#10262B;font:700 12px/1 Overpass Variable,system-ui,sans-serif;padding:5px 9px;border-radius:4px 4px 0 0;white-space:nowrap;pointer-events:none}
.edit-plus{position:absolute;left:50%;bottom:6px;transform:translate(-50%,0);z-index:5;display:inline-flex;gap:6px;align-items:center;background:#fff;color:#10262B;border:1.5px solid #10262B;border-radius:6px;padding:7px 12px;font:600 13px/1 Overpass Variable,system-ui,sans-serif;cursor:pointer;opacity:0}
.edit-section:hover>.edit-plus,.edit-plus:focus-visible,.edit-section[data-selected]>.edit-plus{opacity:1}
.edit-element :is(input,select,textarea,iframe){pointer-events:none}
.edit-element[data-unfilled]:not([data-selected]){display:none}.edit-note{margin:0;font:500 13px/1.4 Overpass Variable,system-ui,sans-serif;opacity:.75}
.edit-shown{animation:edit-shown 1.4s ease-out}@keyframes edit-shown{0%,60%{box-shadow:0 0 0 6px rgba(244,194,13,.55)}100%{box-shadow:0 0 0 6px rgba(244,194,13,0)}}@media (prefers-reduced-motion:reduce){.edit-shown{animation:none}}
.edit-outlines .edit-section{outline:1.5px solid #1F5FA8;outline-offset:-2px}.edit-outlines .column{outline:1px dashed #1F5FA8}.edit-outlines .edit-element:not([data-selected]){outline:1px solid #8a8f99;min-height:8px}
.edit-empty{border:1.5px dashed #8a8f99;border-radius:6px;padding:18px;text-align:center;font:500 13px/1.4 system-ui,sans-serif;background:transparent;color:inherit;cursor:pointer}
.column{position:relative}
.edit-edge{position:absolute;z-index:3;right:-32px;top:0;bottom:0;width:16px;padding:0;border:0;background:none;cursor:col-resize;touch-action:none}.edit-edge::after{content:"";position:absolute;left:7px;top:0;bottom:0;border-left:2px dashed #8a8f99;opacity:0}.edit-section:hover .edit-edge::after,.edit-section[data-selected] .edit-edge::after{opacity:.6}.edit-edge:hover::after,.edit-edge:focus-visible::after,.edit-edge[data-dragging]::after{opacity:1;border-left:3px solid #F4C20D}
@media (max-width:720px){.edit-edge{display:none}.edit-section.phone-hide,.edit-section .phone-hide,.edit-element.phone-hide{display:block!important;opacity:.3}.edit-section.tall.phone-hide{display:flex!important}}
@media (min-width:720.02px) and (max-width:1023px){.edit-section.tablet-hide,.edit-section .tablet-hide,.edit-element.tablet-hide{display:block!important;opacity:.3}}
@media (min-width:1023.02px){.edit-section.desktop-hide,.edit-section .desktop-hide,.edit-element.desktop-hide{display:block!important;opacity:.3}}
.edit-pop-up{margin:40px auto;border:2px dashed #8a8f99;border-radius:12px;background:var(--ground);position:relative;padding-top:34px}.edit-pop-up::before{content:attr(data-name);position:absolute;left:14px;top:8px;font:600 13px/1.4 Overpass Variable,system-ui,sans-serif;color:#4a5560}.edit-pop-up.opening-narrow{max-width:440px}.edit-pop-up.opening-normal{max-width:620px}.edit-pop-up.opening-wide{max-width:920px}
.words-holder,.words-editor{outline:none;min-width:1ch;white-space:pre-wrap}
.words-editor p{margin:0;font:inherit;max-width:none;color:inherit}
.button .words-holder{display:inline-block}
.edit-placeholder{background:#fdf3cd;color:#10262B;border-radius:3px;padding:0 .15em;box-decoration-break:clone;-webkit-box-decoration-break:clone}
.bound-value{background:rgba(31,95,168,.16);border-radius:4px;padding:0 .18em;box-decoration-break:clone;-webkit-box-decoration-break:clone}
.ground-dark .bound-value,.button-main .bound-value{background:rgba(255,255,255,.2)}
`;
