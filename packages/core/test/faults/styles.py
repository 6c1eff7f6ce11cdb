"""Declarations of styles that hide or change what is read, and such that do not (CSS, levels 2 and 3)."""

# Of an element with words in it.
HIDING = {
    "not displayed": "display:none", "displayed as nothing, in capitals": "DISPLAY : None", "unseen": "visibility:hidden",
    "nearly seen through": "opacity:.02", "white": "color:#fff", "white by lightness": "color:hsl(0 0% 99%)", "white by parts": "color:rgb(255 255 255 / 1)",
    "white, and important": "color:white !important", "transparent": "color:transparent", "without cover": "color:#14213a00",
    "colour of a variable": "--own:#fff;color:var(--own)", "of no size": "font-size:0", "of no size by a share": "font-size:1%", "of a hair's size": "font-size:.4px",
    "of no size in short": "font:0/1 serif", "moved to the left": "text-indent:-9999px", "placed off": "position:absolute;left:-9999px",
    "fixed above": "position:fixed;top:-200vh", "shifted off": "position:relative;left:-200em", "scaled to nothing": "transform:scale(0)", "scaled, newer": "scale:0",
    "turned": "rotate:180deg", "turned over": "transform:rotateX(180deg)", "moved off": "translate:-9999px", "cut by a circle": "clip-path:circle(0)",
    "cut, older": "position:absolute;clip:rect(0,0,0,0)", "of no height": "height:0;overflow:hidden", "of no greatest height": "max-height:0;overflow:hidden",
    "of no width": "width:0;overflow:clip", "filled with nothing": "-webkit-text-fill-color:transparent", "as dots": "-webkit-text-security:disc",
    "capitals": "text-transform:uppercase", "struck": "text-decoration:line-through", "struck by a line": "text-decoration-line:line-through",
    "backwards": "direction:rtl;unicode-bidi:bidi-override", "letters on each other": "letter-spacing:-1em", "words on each other": "word-spacing:-9em",
    "filtered away": "filter:opacity(0)", "blurred": "filter:blur(9px)", "masked": "mask-image:linear-gradient(transparent,transparent)",
    "masked, older": "-webkit-mask:linear-gradient(transparent,transparent)", "content hidden": "content-visibility:hidden", "on its own colour": "background:#14213a",
    "on a picture": "background-image:url(x.png)", "on a dark one": "background-color:#101010", "tiny by zoom": "zoom:.01", "a margin off": "margin-left:-9999px",
    "moving": "animation:gone 1s forwards", "blended": "mix-blend-mode:difference", "other content": "content:'0'", "everything as it began": "all:initial;display:none",
    "newer cut": "inset:-99em auto auto;position:absolute", "offset away": "offset-path:path('M-9999 0h1')",
}
# Of the same, and nobody reads anything else.
PLAIN = {
    "dark brown": "color:#402010", "a named colour": "color:darkslategray", "a light ground": "background:#fffbe8", "a light ground, in full": "background-color:rgb(255, 250, 235)",
    "room within": "padding:.4em", "room around": "margin:1em 0", "a line around": "border:1px solid #888", "wide lines": "line-height:1.6",
    "a little apart": "letter-spacing:.02em", "other letters": "font-family:Georgia, serif", "larger": "font-size:1.1em", "kept together": "page-break-inside:avoid",
    "a hand": "cursor:help", "no lines alone": "widows:2;orphans:2", "breaks by hand": "hyphens:manual", "at the top": "vertical-align:top", "covering": "opacity:1",
    "seen": "visibility:visible", "a box of its own size": "box-sizing:border-box", "no wider": "max-width:60em", "a variable of nobody": "--own:#fff",
    "a shadow around": "box-shadow:0 0 2px #ccc", "round": "border-radius:3px", "slowly": "transition:color .2s",
}

# Rules of a sheet; the name of the element stands for %s.
HIDING_RULES = {
    "not displayed": "%s{display:none}", "by a number": "%s:nth-of-type(2){visibility:hidden}", "by what it is not": "%s:not(.x){opacity:0}", "by a choice": ":is(%s,i){color:#fff}",
    "by everything": "*{color:#fefefe}", "by an attribute": "%s:not([own]){font-size:0}", "on a screen": "@media screen{%s{display:none}}", "on a wide screen": "@media (min-width:1px){%s{display:none}}",
    "where it can": "@supports (display:grid){%s{display:none}}", "in a layer": "@layer own{%s{display:none !important}}", "within": "body{& %s{display:none}}",
    "words before": "%s::before{content:'not '}", "words after": "%s:after{content:' or not'}", "the first letter": "%s::first-letter{font-size:0}", "the first line": "%s::first-line{color:#fff}",
    "other letters": "@font-face{font-family:own;src:url(own.woff2)}%s{font-family:own}", "frames of a movement": "@keyframes own{to{opacity:0}}%s{animation:own 1s forwards}",
    "upside down": "%s{transform:scaleY(-1)}", "by the root": ":root{opacity:0}", "the whole page": "html{display:none}", "the body": "body{height:0;overflow:hidden}",
    "dark all over": "body{background:#14213a}", "one after another": "%s+%s{display:none}", "without an end": "%s{display:none",
    "a remark that ends": "/* p{} */%s{display:none}/* */", "spelt by its number": "%s{d\\69 splay:none}", "in a container": "@container (min-width:1px){%s{display:none}}",
}
PLAIN_RULES = {
    "brown": "%s{color:#402010}", "light": "%s{background:#fffef2}", "on paper black": "@media print{%s{color:#000}}", "pages": "@page{margin:2cm}", "of letters": '@charset "utf-8";',
    "a variable": ":root{--own:4px}", "apart": "%s{letter-spacing:.01em}", "a class of nobody": ".nobody{display:none}", "an element of nobody": "canvas{display:none}", "pointed at": "%s:hover{color:#900}",
    "a remark": "/* %s{display:none} */",
}
