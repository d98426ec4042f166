import { Color, DoubleSide, GLSL3, Matrix4, ShaderMaterial, Texture, Vector4, type BufferGeometry } from 'three'
import { lostArea } from './LostArea'
import { MOST_SHEETS } from './sheets'

/** Shared by all pieces: the blade's plane, the ink, the pixel size. */
export const shared = {
    /** xyz facing, w offset; what lies on the discarded side is drawn faded. */
    fade: { value: new Vector4(0, 0, 0, 0) },
    /** +1 fades ahead, −1 fades behind, 2 fades both sides, 0 none. */
    fadeSide: { value: 0 },
    /** Two more planes, ahead of which all is faded; w beyond all for none. */
    alsoFade: { value: [new Vector4(0, 0, 0, 1), new Vector4(0, 0, 0, 1)] },
    paper: { value: new Color() },
    ink: { value: new Color() },
    pixel: { value: 1 },
    glass: { value: 0 },
    lines: { value: 0 },
    /** Every face in its own light, so that facets show. */
    facets: { value: 0 },
    ...lostArea.uniforms,
}

const vertexShader = /* glsl */ `
in float inside;
in vec3 own;
out vec3 vOwn;
#if defined(PAINTED) || defined(STUFFED)
in vec2 across;
out vec2 vAcross;
#endif
#ifdef PAINTED
in float sheet;
flat out int vSheet;
#endif
out vec3 vNormal;
out vec3 vWorld;
out vec3 vEye;
out float vInside;
out vec3 vCorner;
uniform mat4 home;
void main() {
    vec4 world = modelMatrix * vec4(position, 1.0);
    vWorld = (home * world).xyz;
    vec4 eye = viewMatrix * world;
    vEye = eye.xyz;
    vNormal = normalMatrix * normal;
    vInside = inside;
    vOwn = own;
#if defined(PAINTED) || defined(STUFFED)
    vAcross = across;
#endif
#ifdef PAINTED
    vSheet = int(sheet + 0.5);
#endif
    int k = gl_VertexID % 3;
    vCorner = vec3(k == 0, k == 1, k == 2);
    gl_Position = projectionMatrix * eye;
}`

// Light from the upper left and a soft sky, as on a drawing; cut faces are paper with hatching at 45 degrees whose spacing
// is counted in pixels, leaning one way or the other by piece.
const fragmentShader = /* glsl */ `
precision highp float;
in vec3 vNormal;
in vec3 vWorld;
in vec3 vEye;
in float vInside;
in vec3 vCorner;
in vec3 vOwn;
#if defined(PAINTED) || defined(STUFFED)
in vec2 vAcross;
#endif
#ifdef PAINTED
flat in int vSheet;
uniform sampler2D sheets[PAINTED];
#endif
#ifdef STUFFED
uniform sampler2D stuff;
// Millimetres to places on the picture: two rows.
uniform vec4 stuffPlace;
#endif
uniform float insideShown;
uniform vec3 insideColour;
layout(location = 0) out vec4 colourOut;
uniform vec3 colour;
uniform float lean;
uniform float picked;
uniform vec4 fade;
uniform float fadeSide;
uniform vec4 alsoFade[2];
#ifdef PARTED
uniform float lostKind;
uniform sampler2D lostArea;
uniform vec4 lostRight;
uniform vec4 lostUp;
uniform vec4 lostAlong;
uniform vec3 lostEye;
uniform vec4 lostFloor;

/** Does a place not stay after a cut along lines? */
bool isLost(vec3 place) {
    if (lostKind < 0.5) return false;
    vec3 from = lostKind > 1.5 ? place - lostEye : place;
    float away = dot(from, lostAlong.xyz);
    if (away > lostFloor.x) return lostFloor.y > 0.5;
    if (lostKind > 1.5) from /= away;
    vec2 on = vec2(dot(from, lostRight.xyz) + lostRight.w, dot(from, lostUp.xyz) + lostUp.w);
    // Within the picture, and not where it has no such place.
    bool isOn = on.x >= 0.0 && on.x <= 1.0 && on.y >= 0.0 && on.y <= 1.0;
    return isOn && textureLod(lostArea, on, 0.0).r > 0.5;
}
#endif
uniform vec3 paper;
uniform vec3 ink;
uniform float pixel;
uniform float glass;
uniform float lines;
uniform float sheer;
uniform float facets;
uniform float ownShown;
uniform float ownColoured;
// Straight down, and how far down the bed is; no direction for none.
uniform vec4 over;
#ifdef CAPPED
uniform vec4 cap;
#endif

void main() {
#ifdef CAPPED
    if (dot(vWorld, cap.xyz) > cap.w) discard;
#endif
    vec3 came = ownColoured > 0.5 ? vOwn : vec3(1.0);
#ifdef PAINTED
    // Slopes are taken before the choice: within it they are not defined.
    vec2 dx = dFdx(vAcross);
    vec2 dy = dFdy(vAcross);
${Array.from({ length: MOST_SHEETS }, (_, n) => `#if PAINTED > ${n}\n    if (vSheet == ${n + 1}) came *= textureGrad(sheets[${n}], vAcross, dx, dy).rgb;\n#endif\n`).join('')}
#endif
    vec3 tone = mix(colour, came, ownShown);
    bool stuffed = vInside > 0.5 && insideShown > 0.5;
    if (stuffed) tone = insideColour;
#ifdef STUFFED
    vec2 on = vec2(dot(stuffPlace.xy, vAcross), dot(stuffPlace.zw, vAcross));
    vec2 onX = dFdx(on);
    vec2 onY = dFdy(on);
    if (stuffed) tone = textureGrad(stuff, on, onX, onY).rgb;
#endif
    vec3 n = normalize(gl_FrontFacing ? vNormal : -vNormal);
    if (facets > 0.5) n = normalize(cross(dFdx(vEye), dFdy(vEye)));
    vec3 toEye = normalize(-vEye);
    float key = max(dot(n, normalize(vec3(-0.35, 0.65, 0.7))), 0.0);
    float sky = 0.5 + 0.5 * n.y;
    float edge = pow(1.0 - max(dot(n, toEye), 0.0), 3.0);
    vec3 base = gl_FrontFacing ? tone : tone * 0.38;
    vec3 lit = base * (0.36 + 0.30 * sky + 0.52 * key);
    lit = mix(lit, lit * 0.72 + ink * 0.06, edge * 0.6);

    if (vInside > 0.5 && !stuffed) {
        vec3 flatPaper = mix(paper, colour, 0.16) * (0.84 + 0.16 * key + 0.06 * sky);
        float across = (gl_FragCoord.x + lean * gl_FragCoord.y) * 0.70710678 / pixel;
        float spacing = 6.5;
        float distance = abs(fract(across / spacing) - 0.5) * spacing;
        float line = 1.0 - smoothstep(0.35, 1.05, distance);
        lit = mix(flatPaper, mix(ink, colour, 0.25), line * 0.62);
    }
    // The normal of the face itself, where the piece really stands: it looks at the eye, or away when the face is seen from behind.
    vec3 face = normalize(cross(dFdx(vWorld), dFdy(vWorld))) * (gl_FrontFacing ? 1.0 : -1.0);
    bool hangs = dot(face, over.xyz) > 0.70710678 && dot(vWorld, over.xyz) < over.w - 0.02;
    if (hangs) lit = mix(lit, vec3(0.78, 0.42, 0.05) * (0.45 + 0.55 * sky + 0.3 * key), 0.75);
    if (lines > 0.5) {
        vec3 width = fwidth(vCorner);
        vec3 near = smoothstep(vec3(0.0), width * 1.1, vCorner);
        // Where triangles are smaller than a few pixels their lines would only darken the surface.
        float crowded = clamp(1.0 - max(max(width.x, width.y), width.z) * 1.6, 0.0, 1.0);
        lit = mix(lit, ink, (1.0 - min(min(near.x, near.y), near.z)) * 0.55 * crowded);
    }
    lit = mix(lit, lit * 1.1 + vec3(0.02, 0.05, 0.09), picked);
    float side = dot(vWorld, fade.xyz) - fade.w;
    bool away = fadeSide != 0.0 && (fadeSide > 1.5 || side * fadeSide > 0.0 || dot(vWorld, alsoFade[0].xyz) > alsoFade[0].w || dot(vWorld, alsoFade[1].xyz) > alsoFade[1].w);
    float alpha = 1.0;
#ifdef PARTED
    away = away || isLost(vWorld);
    // Two passes: what is solid first, then what is seen through.
    bool through = glass > 0.5 || away;
    if (through != (sheer > 0.5)) discard;
    if (through) alpha = away ? 0.10 + 0.22 * edge : 0.22 + 0.45 * edge;
    if (vInside > 0.5 && through) alpha = away ? 0.16 : 0.55;
#endif
    colourOut = vec4(lit, alpha);
    colourOut = linearToOutputTexel(colourOut);
}`

/**
 * How a piece is drawn: whole; or parted, when some of it is seen through, in two passes: solid, and sheer. Whole, nothing is thrown away
 * in the shader, so the card can leave out at once what lies behind.
 */
export function pieceMaterial(colour: string, lean: number, pass: 'whole' | 'solid' | 'sheer' = 'whole'): ShaderMaterial {
    const sheer = pass === 'sheer'
    return new ShaderMaterial({
        glslVersion: GLSL3,
        defines: pass === 'whole' ? {} : { PARTED: 1 },
        side: DoubleSide,
        transparent: sheer,
        depthWrite: !sheer,
        // A little behind where they are: rims, and whatever else is drawn on them, are seen whole.
        polygonOffset: true,
        polygonOffsetFactor: 1,
        polygonOffsetUnits: 1,
        uniforms: {
            ...shared,
            colour: { value: new Color(colour) },
            lean: { value: lean },
            sheer: { value: sheer ? 1 : 0 },
            picked: { value: 0 },
            /** 1 draws what came with the mesh: its pictures, and its colours where it has any. */
            ownShown: { value: 0 },
            ownColoured: { value: 0 },
            sheets: { value: [] },
            /** 1 draws the look of the inside, hatching else. */
            insideShown: { value: 0 },
            insideColour: { value: new Color('#ffffff') },
            stuff: { value: null },
            stuffPlace: { value: new Vector4() },
            over: { value: new Vector4() },
            cap: { value: new Vector4(0, 0, 0, 1) },
            // From where it is drawn to where it really stands.
            home: { value: new Matrix4() },
        },
        vertexShader,
        fragmentShader,
    })
}

const nothing = new Texture()

/** How inside faces are drawn when they are not hatched: in one colour, or with a picture and the rows by which millimetres become places on it. */
export interface InsideDrawn {
    colour: string | null
    picture: Texture | null
    place: [number, number, number, number]
}

/** Draws a shape with what came with it, where there is anything, or in the colour of its piece alone; its inside hatched, or with its look. */
export function dress(material: ShaderMaterial, geometry: BufferGeometry, own: boolean, inside: InsideDrawn | null = null): void {
    const sheets = (geometry.userData.sheets ?? []) as (Texture | null)[]
    const painted = geometry.hasAttribute('sheet') ? sheets.length : 0
    const coloured = geometry.hasAttribute('own')
    const stuffed = own && inside?.picture && geometry.userData.placed ? 1 : 0
    const { uniforms, defines } = material
    uniforms.ownShown.value = own && (coloured || painted) ? 1 : 0
    uniforms.ownColoured.value = coloured ? 1 : 0
    uniforms.sheets.value = sheets.map((sheet) => sheet ?? nothing)
    uniforms.insideShown.value = stuffed || (own && inside?.colour) ? 1 : 0
    if (inside?.colour) (uniforms.insideColour.value as Color).set(inside.colour)
    uniforms.stuff.value = stuffed ? inside?.picture : null
    if (inside) (uniforms.stuffPlace.value as Vector4).set(...inside.place)
    if ((defines.PAINTED ?? 0) === painted && (defines.STUFFED ?? 0) === stuffed) return
    material.defines = { ...(defines.PARTED ? { PARTED: 1 } : {}), ...(defines.CAPPED ? { CAPPED: 1 } : {}), ...(painted ? { PAINTED: painted } : {}), ...(stuffed ? { STUFFED: 1 } : {}) }
    material.needsUpdate = true
}

/** What is beyond its cap is left out, or nothing is. */
export function capped(material: ShaderMaterial, is: boolean): void {
    if ((material.defines.CAPPED !== undefined) === is) return
    const defines = { ...material.defines } as Record<string, number>
    if (is) defines.CAPPED = 1
    else delete defines.CAPPED
    material.defines = defines
    material.needsUpdate = true
}

/** Draws each piece in the colour of its number, to find the piece under the pointer. */
export function numberMaterial(): ShaderMaterial {
    return new ShaderMaterial({
        side: DoubleSide,
        uniforms: { number: { value: [0, 0, 0] } },
        vertexShader: 'void main() { gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0); }',
        fragmentShader: 'uniform vec3 number; void main() { gl_FragColor = vec4(number, 1.0); }',
    })
}
