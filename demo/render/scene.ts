/**
 * The marsh as signed distance fields, in metres, y up: the chain ferry lies along x at the origin with its deck 0.75 m
 * above the water, the lantern stands on a plank table of its own scene. Marched in a WebGL2 fragment shader.
 * Distance functions: Inigo Quilez, "Distance functions" (box, torus, cylinder, capsule are closed forms).
 */
export const SCENE = /* glsl */ `#version 300 es
precision highp float;
out vec4 colour;
uniform vec2 size;
uniform float top;
uniform vec3 eye;
uniform vec3 target;
uniform float focal;      // 35 mm equivalent, mm
uniform vec3 sun;         // towards the light, unit length
uniform vec3 sunColour;
uniform vec3 skyLow;
uniform vec3 skyHigh;
uniform float fog;        // extinction per metre
uniform int scene;        // 0 ferry, 1 lantern
uniform float lampGlow;

float hash(vec2 p) { p = fract(p * vec2(123.34, 456.21)); p += dot(p, p + 45.32); return fract(p.x * p.y); }
float hash3(vec3 p) { return hash(p.xy + p.z * 17.13); }
float noise(vec2 p) {
  vec2 i = floor(p), f = fract(p); f = f * f * (3.0 - 2.0 * f);
  return mix(mix(hash(i), hash(i + vec2(1, 0)), f.x), mix(hash(i + vec2(0, 1)), hash(i + vec2(1, 1)), f.x), f.y);
}
float noise3(vec3 p) {
  vec3 i = floor(p), f = fract(p); f = f * f * (3.0 - 2.0 * f);
  float a = mix(mix(hash3(i), hash3(i + vec3(1,0,0)), f.x), mix(hash3(i + vec3(0,1,0)), hash3(i + vec3(1,1,0)), f.x), f.y);
  i.z += 1.0;
  float b = mix(mix(hash3(i), hash3(i + vec3(1,0,0)), f.x), mix(hash3(i + vec3(0,1,0)), hash3(i + vec3(1,1,0)), f.x), f.y);
  return mix(a, b, f.z);
}
float fbm(vec3 p) { float s = 0.0, a = 0.5; for (int i = 0; i < 5; i++) { s += a * noise3(p); p = p * 2.03 + 7.1; a *= 0.5; } return s; }

float box(vec3 p, vec3 b, float r) { vec3 q = abs(p) - b + r; return length(max(q, 0.0)) + min(max(q.x, max(q.y, q.z)), 0.0) - r; }
float torus(vec3 p, float R, float r) { return length(vec2(length(p.xy) - R, p.z)) - r; }
float cylY(vec3 p, float r, float h) { vec2 d = abs(vec2(length(p.xz), p.y)) - vec2(r, h); return min(max(d.x, d.y), 0.0) + length(max(d, 0.0)); }
float cylZ(vec3 p, float r, float h) { return cylY(p.xzy, r, h); }
float capsule(vec3 p, vec3 a, vec3 b, float r) { vec3 pa = p - a, ba = b - a; float h = clamp(dot(pa, ba) / dot(ba, ba), 0.0, 1.0); return length(pa - ba * h) - r; }
mat2 turn(float a) { float c = cos(a), s = sin(a); return mat2(c, -s, s, c); }
vec2 near(vec2 a, vec2 b) { return a.x < b.x ? a : b; }

// materials: 1 hull, 2 planks, 3 house, 4 roof, 5 iron, 6 rope, 7 lamp, 8 reed, 9 mud, 10 table, 11 brass, 12 glass, 13 window, 14 wall, 15 tyre

vec2 ferry(vec3 p) {
  vec2 d = vec2(1e9, 0.0);
  if (box(p - vec3(0, 1.4, 0), vec3(7.6, 3.2, 2.6), 0.0) > 1.5) return vec2(box(p - vec3(0, 1.4, 0), vec3(7.6, 3.2, 2.6), 0.0), 1.0);
  // hull: flat, raked at both ends
  vec3 h = p - vec3(0, 0.28, 0);
  float hull = box(h, vec3(5.2, 0.46, 1.85), 0.05);
  float rake = dot(vec2(abs(p.x) - 4.9, p.y + 0.15), normalize(vec2(0.72, -0.75)));
  hull = max(hull, rake);
  d = near(d, vec2(hull, 1.0));
  float strake = box(p - vec3(0, 0.66, 0), vec3(5.22, 0.06, 1.92), 0.02);
  d = near(d, vec2(max(strake, rake - 0.03), 2.0));
  d = near(d, vec2(box(p - vec3(0, 0.745, 0), vec3(5.1, 0.03, 1.78), 0.01), 2.0));
  // ramps, half raised
  vec3 r = p; r.x = abs(r.x) - 5.15; r.y -= 0.74; r.xy *= turn(p.x > 0.0 ? 0.30 : 0.10);
  d = near(d, vec2(box(r - vec3(1.0, 0.0, 0), vec3(1.05, 0.045, 1.6), 0.02), 2.0));
  vec3 rr = r; rr.z = abs(rr.z) - 1.5;
  d = near(d, vec2(box(rr - vec3(1.0, 0.08, 0), vec3(1.05, 0.07, 0.06), 0.02), 5.0));
  d = near(d, vec2(capsule(vec3(abs(p.x), p.y, abs(p.z)), vec3(4.7, 1.75, 1.6), vec3(p.x > 0.0 ? 6.7 : 7.0, p.x > 0.0 ? 1.36 : 0.98, 1.5), 0.022), 6.0));
  // winch house
  vec3 w = p - vec3(0.9, 1.75, -0.55);
  float house = box(w, vec3(0.95, 1.0, 0.8), 0.03);
  float win = box(w - vec3(0.0, 0.3, 0.8), vec3(0.42, 0.3, 0.12), 0.02);
  float door = box(w - vec3(-0.95, -0.12, 0.1), vec3(0.1, 0.78, 0.34), 0.02);
  float winX = box(w - vec3(0.95, 0.3, 0.0), vec3(0.12, 0.28, 0.38), 0.02);
  house = max(house, -min(win, min(door, winX)));
  d = near(d, vec2(house, 3.0));
  d = near(d, vec2(box(w, vec3(0.86, 0.92, 0.7), 0.0), 13.0));
  vec3 mull = w - vec3(0, 0.3, 0.79);
  d = near(d, vec2(min(box(mull, vec3(0.018, 0.3, 0.02), 0.0), box(mull, vec3(0.42, 0.018, 0.02), 0.0)), 2.0));
  vec3 ro = w - vec3(0, 1.06, 0);
  float roof = box(ro - vec3(0, 0.10 - 0.13 * abs(ro.z), 0), vec3(1.15, 0.05, 1.0), 0.02) * 0.9;
  d = near(d, vec2(roof, 4.0));
  d = near(d, vec2(cylY(w - vec3(0.55, 1.35, -0.3), 0.09, 0.3), 5.0));
  // chain wheel beside the house, its axle and the chain that runs over it
  vec3 c = p - vec3(-1.15, 1.62, 0.35);
  float wheel = torus(c, 0.82, 0.075);
  float a = atan(c.y, c.x); float sector = 6.2831853 / 8.0;
  float sa = (fract(a / sector + 0.5) - 0.5) * sector; float cr = length(c.xy);
  vec3 sp = vec3(cr * cos(sa), cr * sin(sa), c.z);
  wheel = min(wheel, capsule(sp, vec3(0.12, 0, 0), vec3(0.8, 0, 0), 0.042));
  wheel = min(wheel, box(sp - vec3(0.91, 0, 0), vec3(0.055, 0.07, 0.05), 0.015));
  wheel = min(wheel, cylZ(c, 0.16, 0.14));
  wheel = min(wheel, cylZ(c, 0.055, 0.62));
  d = near(d, vec2(wheel, 5.0));
  vec3 st = c; st.z = abs(st.z) - 0.5;
  d = near(d, vec2(min(capsule(st, vec3(0, 0, 0), vec3(-0.5, -0.86, 0), 0.055), capsule(st, vec3(0, 0, 0), vec3(0.5, -0.86, 0), 0.055)), 5.0));
  vec3 ch = p - vec3(-1.15, 2.45, 0.35);
  float along = abs(ch.x);
  float sag = -1.75 * (1.0 - exp(-along * 0.32)) - 0.12 * along * along * 0.25;
  if (along < 4.5) {
    float link = fract(ch.x / 0.22 + 0.5) - 0.5;
    float chain = length(vec2(ch.y - sag + (along < 0.6 ? 0.6 * along * along : 0.0), ch.z)) - 0.035 - 0.018 * cos(link * 6.28);
    d = near(d, vec2(chain * 0.6, 5.0));
  }
  // rails: posts and slack rope, open at the ramps
  vec3 q = p; q.z = abs(q.z) - 1.72;
  float span = 1.18; float cell = clamp(round(q.x / span), -4.0, 4.0);
  vec3 post = vec3(q.x - cell * span, q.y - 1.25, q.z);
  d = near(d, vec2(cylY(post, 0.042, 0.52), 5.0));
  d = near(d, vec2(length(post - vec3(0, 0.55, 0)) - 0.062, 5.0));
  float t = clamp(q.x, -4.0 * span, 4.0 * span);
  float u = fract(t / span); float slack = 0.20 * u * (1.0 - u) * 4.0;
  for (int k = 0; k < 2; k++) {
    float y = (k == 0 ? 1.70 : 1.32) - slack * (k == 0 ? 1.0 : 0.8);
    float rope = length(vec3(q.x - t, q.y - y, q.z)) - 0.028 - 0.005 * sin(t * 90.0 + atan(q.z, q.y - y) * 2.0);
    d = near(d, vec2(rope * 0.75, 6.0));
  }
  // lamp mast
  d = near(d, vec2(cylY(p - vec3(2.55, 2.4, -0.9), 0.055, 1.7), 2.0));
  d = near(d, vec2(length(p - vec3(2.55, 4.28, -0.9)) - 0.15, 7.0));
  d = near(d, vec2(cylY(p - vec3(2.55, 4.47, -0.9), 0.14, 0.03), 5.0));
  d = near(d, vec2(capsule(p, vec3(2.55, 4.0, -0.9), vec3(4.9, 0.8, -1.65), 0.014), 6.0));
  d = near(d, vec2(capsule(p, vec3(2.55, 4.0, -0.9), vec3(0.0, 2.9, -0.55), 0.012), 6.0));
  // crates, a coil of rope, old tyres as fenders
  vec3 cr2 = p - vec3(-3.2, 1.0, -0.9); cr2.xz *= turn(0.35);
  d = near(d, vec2(box(cr2, vec3(0.36, 0.25, 0.3), 0.02), 2.0));
  vec3 cr3 = p - vec3(-3.15, 1.42, -0.92); cr3.xz *= turn(-0.2);
  d = near(d, vec2(box(cr3, vec3(0.26, 0.17, 0.22), 0.02), 2.0));
  vec3 co = (p - vec3(3.6, 0.85, 0.85)).xzy;
  d = near(d, vec2(min(torus(co, 0.3, 0.055), torus(co - vec3(0.02, 0.01, 0.09), 0.26, 0.055)), 6.0));
  vec3 ty = p - vec3(clamp(round(p.x / 2.4), -1.0, 1.0) * 2.4, 0.32, 1.93);
  d = near(d, vec2(torus(ty, 0.2, 0.075), 15.0));
  return d;
}

float ground(vec3 p) { return p.y + 0.55 - 0.75 * smoothstep(-10.0, -14.5, p.z + 1.2 * sin(p.x * 0.21)) + 0.06 * noise(p.xz * 1.4); }

vec2 reeds(vec3 p) {
  float edge = -11.5 - 1.2 * sin(p.x * 0.21);
  if (p.z > edge + 1.2 || p.y > 4.2) return vec2(max(max(p.z - edge - 1.0, 0.0), p.y - 3.9) + 0.25, 8.0);
  vec2 d = vec2(1e9, 8.0);
  for (int k = 0; k < 2; k++) {
    float s = k == 0 ? 0.30 : 0.43;
    vec2 g = p.xz * (k == 0 ? 1.0 : 1.0) + (k == 0 ? 0.0 : 7.7);
    vec2 id = floor(g / s); vec2 f = (fract(g / s) - 0.5) * s;
    float r1 = hash(id + float(k) * 31.0), r2 = hash(id + 9.7), r3 = hash(id + 3.3);
    float H = 1.7 + 1.5 * r1 + 0.5 * noise(id * 0.13);
    vec2 lean = (vec2(r2, r3) - 0.5) * 0.16 + vec2(0.05, 0.0);
    float y = clamp(p.y, -0.5, H);
    vec2 c = (vec2(r3, r1) - 0.5) * s * 0.35 + lean * (y / H) * (y / H) * 1.3;
    float rad = mix(0.020, 0.007, y / H) + (y > H - 0.38 ? 0.026 * sin(clamp((H - y) / 0.38, 0.0, 1.0) * 3.14) : 0.0);
    float e = length(vec3(f - c, p.y - y)) - rad;
    d = near(d, vec2(e * 0.55, 8.0));
  }
  return d;
}

vec2 lantern(vec3 p) {
  vec2 d = vec2(box(p - vec3(0, -0.06, 0), vec3(1.6, 0.06, 0.75), 0.008), 10.0);
  d = near(d, vec2(p.z + 1.5, 14.0));
  vec3 q = p;
  d = near(d, vec2(cylY(q - vec3(0, 0.03, 0), 0.135, 0.03) - 0.006, 11.0));
  d = near(d, vec2(cylY(q - vec3(0, 0.085, 0), 0.105, 0.03) - 0.008, 11.0));
  d = near(d, vec2(length(vec2(length(q.xz) - 0.118, q.y - 0.118)) - 0.012, 11.0));
  // globe, slightly swelling
  float gr = 0.098 + 0.016 * sin(clamp((q.y - 0.12) / 0.24, 0.0, 1.0) * 3.1416);
  float glass = max(abs(length(q.xz) - gr) - 0.002, abs(q.y - 0.24) - 0.12);
  d = near(d, vec2(glass * 0.8, 12.0));
  // flame and burner
  vec3 fl = q - vec3(0.002, 0.19, 0); float up = clamp((fl.y + 0.02) / 0.095, 0.0, 1.0);
  float flame = length(vec3(fl.x - 0.004 * sin(up * 5.0), fl.y - clamp(fl.y, -0.012, 0.075), fl.z)) - 0.019 * sqrt(up + 0.08) * (1.0 - up) * 2.4 - 0.0015;
  d = near(d, vec2(flame * 0.5, 7.0));
  d = near(d, vec2(cylY(q - vec3(0, 0.135, 0), 0.035, 0.03), 11.0));
  // six bars
  float a = atan(q.z, q.x); float sector = 6.2831853 / 6.0; float sa = (fract(a / sector + 0.5) - 0.5) * sector;
  float rr = length(q.xz); vec3 b = vec3(rr * cos(sa), q.y, rr * sin(sa));
  d = near(d, vec2(capsule(b, vec3(0.128, 0.1, 0), vec3(0.128, 0.375, 0), 0.0065), 5.0));
  d = near(d, vec2(torus((q - vec3(0, 0.2, 0)).xzy, 0.128, 0.005), 5.0));
  // cap
  float cone = max(length(q.xz) - mix(0.145, 0.055, clamp((q.y - 0.37) / 0.11, 0.0, 1.0)), abs(q.y - 0.425) - 0.055);
  d = near(d, vec2(cone * 0.7 - 0.003, 11.0));
  d = near(d, vec2(cylY(q - vec3(0, 0.50, 0), 0.05, 0.03) - 0.004, 11.0));
  d = near(d, vec2(length((q - vec3(0, 0.545, 0)) * vec3(1, 1.5, 1)) - 0.052, 11.0));
  // handle, fallen to one side
  vec3 hd = q - vec3(0, 0.405, 0); hd.yz *= turn(-0.45);
  float handle = hd.y > -0.02 ? torus(hd * vec3(1, 0.86, 1), 0.175, 0.0075) : 1e9;
  d = near(d, vec2(handle * 0.85, 5.0));
  // a coil of rope and a knife beside it
  vec3 k = (q - vec3(-0.36, 0.022, 0.12)).xzy;
  for (int i = 0; i < 3; i++) {
    vec3 kk = k - vec3(0.012 * float(i), 0.008 * float(i), -0.038 * float(i));
    float an = atan(kk.y, kk.x);
    d = near(d, vec2((torus(kk, 0.135 - 0.012 * float(i), 0.021) + 0.0016 * sin(an * 46.0 + atan(kk.z, length(kk.xy) - 0.13) * 3.0)) * 0.7, 6.0));
  }
  vec3 kn = q - vec3(0.36, 0.018, 0.2); kn.xz *= turn(0.5);
  d = near(d, vec2(box(kn, vec3(0.085, 0.013, 0.017), 0.008), 2.0));
  d = near(d, vec2(box(kn - vec3(0.16, -0.004, 0.0), vec3(0.08, 0.003, 0.015), 0.001), 5.0));
  return d;
}

vec2 world(vec3 p) {
  if (scene == 1) return lantern(p);
  vec2 d = ferry(p);
  d = near(d, reeds(p));
  d = near(d, vec2(ground(p) * 0.7, 9.0));
  return d;
}

vec3 normalAt(vec3 p, float e) {
  vec2 k = vec2(1, -1);
  return normalize(k.xyy * world(p + k.xyy * e).x + k.yyx * world(p + k.yyx * e).x + k.yxy * world(p + k.yxy * e).x + k.xxx * world(p + k.xxx * e).x);
}
vec2 march(vec3 o, vec3 dir, float far) {
  float t = 0.01; float m = 0.0;
  for (int i = 0; i < 190; i++) {
    vec2 d = world(o + dir * t);
    if (d.x < 0.0006 * (1.0 + t)) { m = d.y; break; }
    t += d.x * 0.92; if (t > far) break;
  }
  return vec2(t, m);
}
float shadow(vec3 o, vec3 dir, float k, float far) {
  float s = 1.0, t = 0.02;
  for (int i = 0; i < 56; i++) {
    vec2 d = world(o + dir * t); float w = d.y == 12.0 ? 1.0 : d.x;
    s = min(s, k * w / t); t += clamp(d.y == 12.0 ? 0.01 : d.x, 0.012, 0.5);
    if (s < 0.004 || t > far) break;
  }
  s = clamp(s, 0.0, 1.0); return s * s * (3.0 - 2.0 * s);
}
float occlusion(vec3 p, vec3 n, float reach) {
  float o = 0.0, w = 1.0;
  for (int i = 1; i <= 5; i++) { float h = reach * float(i) / 5.0; o += (h - world(p + n * h).x) * w; w *= 0.72; }
  return clamp(1.0 - 1.6 * o / reach * 0.5, 0.0, 1.0);
}
vec3 sky(vec3 d) {
  float h = max(d.y, 0.0);
  vec3 c = mix(skyLow, skyHigh, 1.0 - exp(-3.2 * h));
  float s = max(dot(d, sun), 0.0);
  c += sunColour * (0.20 * pow(s, 6.0) + 0.30 * pow(s, 60.0) + 1.6 * smoothstep(0.9986, 0.9994, s));
  if (d.y > 0.01) {
    vec2 q = d.xz / (d.y + 0.16); float cl = fbm(vec3(q * 0.9 + 3.0, 1.7));
    c = mix(c, mix(skyLow * 1.06, sunColour * 0.35 + skyLow * 0.75, pow(s, 3.0)), 0.5 * smoothstep(0.46, 0.78, cl) * smoothstep(0.0, 0.22, d.y));
  }
  return c;
}

struct Surface { vec3 albedo; float gloss; float power; vec3 glow; };

Surface surfaceOf(float m, vec3 p, vec3 n) {
  Surface s = Surface(vec3(0.5), 0.04, 20.0, vec3(0));
  float g = fbm(p * 3.1);
  if (m < 1.5) {
    float rust = smoothstep(0.50, 0.60, fbm(p * vec3(1.1, 1.6, 1.1) + 4.0) + 0.22 * smoothstep(0.35, -0.1, p.y));
    float streak = smoothstep(0.55, 0.8, noise(vec2(p.x * 7.0, 3.0))) * smoothstep(0.7, 0.0, p.y);
    vec3 paint = mix(vec3(0.215, 0.30, 0.265), vec3(0.32, 0.385, 0.335), g);
    vec3 rusty = mix(vec3(0.30, 0.105, 0.042), vec3(0.47, 0.20, 0.085), fbm(p * 9.0));
    s.albedo = mix(paint, rusty, clamp(rust + 0.35 * streak, 0.0, 1.0));
    s.albedo *= mix(0.42, 1.0, smoothstep(-0.05, 0.22, p.y + 0.05 * noise(p.xz * 5.0)));
    s.gloss = mix(0.16, 0.03, rust); s.power = 38.0;
  } else if (m < 2.5) {
    float plank = floor(p.x * 5.2); float seam = smoothstep(0.0, 0.05, abs(fract(p.x * 5.2) - 0.5) * 2.0 * 0.5 + 0.0) ;
    seam = smoothstep(0.47, 0.43, abs(fract(p.x * 5.2) - 0.5));
    float grain = fbm(vec3(p.x * 26.0, p.y * 8.0, p.z * 2.2) + plank * 3.7);
    s.albedo = mix(vec3(0.215, 0.155, 0.10), vec3(0.40, 0.30, 0.20), grain) * (0.72 + 0.4 * hash(vec2(plank, 1.0))) * mix(0.32, 1.0, seam);
    float wet = smoothstep(0.5, 0.62, fbm(p * vec3(0.7, 1.0, 0.7) + 11.0));
    s.albedo *= mix(1.0, 0.6, wet); s.gloss = mix(0.04, 0.38, wet); s.power = mix(12.0, 60.0, wet);
  } else if (m < 3.5) {
    float board = abs(fract(p.y * 5.5) - 0.5);
    s.albedo = mix(vec3(0.60, 0.51, 0.36), vec3(0.74, 0.66, 0.50), g) * mix(0.5, 1.0, smoothstep(0.49, 0.42, board));
    s.albedo = mix(s.albedo, vec3(0.33, 0.25, 0.17), 0.55 * smoothstep(0.55, 0.75, fbm(p * vec3(4.0, 0.9, 4.0) + 2.0)));
  } else if (m < 4.5) { s.albedo = mix(vec3(0.235, 0.145, 0.105), vec3(0.34, 0.20, 0.14), g); s.albedo *= 0.75 + 0.25 * sin(p.x * 34.0); s.gloss = 0.08; }
  else if (m < 5.5) { s.albedo = mix(vec3(0.085, 0.075, 0.07), vec3(0.27, 0.135, 0.072), smoothstep(0.42, 0.66, fbm(p * 5.0 + 1.0))); s.gloss = 0.22; s.power = 30.0; }
  else if (m < 6.5) { s.albedo = mix(vec3(0.34, 0.27, 0.17), vec3(0.50, 0.41, 0.28), noise3(p * 60.0)); }
  else if (m < 7.5) { s.albedo = vec3(0.9, 0.75, 0.5); s.glow = vec3(2.6, 1.75, 0.85) * lampGlow; }
  else if (m < 8.5) { float h = clamp(p.y / 2.7, 0.0, 1.0); s.albedo = mix(vec3(0.17, 0.155, 0.07), vec3(0.53, 0.43, 0.25), h) * (0.7 + 0.6 * hash(floor(p.xz * 3.0))); }
  else if (m < 9.5) { s.albedo = mix(vec3(0.10, 0.082, 0.06), vec3(0.18, 0.145, 0.10), g); s.gloss = 0.3; s.power = 40.0; }
  else if (m < 10.5) {
    float plank = floor(p.z * 5.0); float seam = smoothstep(0.485, 0.465, abs(fract(p.z * 5.0) - 0.5));
    float grain = fbm(vec3(p.x * 4.0, p.y * 30.0, p.z * 52.0) + plank * 5.1);
    s.albedo = mix(vec3(0.16, 0.105, 0.065), vec3(0.40, 0.28, 0.18), grain) * (0.75 + 0.35 * hash(vec2(plank, 4.0))) * mix(0.2, 1.0, seam);
    s.gloss = 0.16; s.power = 26.0;
  }
  else if (m < 11.5) { s.albedo = mix(vec3(0.20, 0.135, 0.085), vec3(0.44, 0.29, 0.155), fbm(p * 14.0)); s.albedo = mix(s.albedo, vec3(0.15, 0.20, 0.17), 0.55 * smoothstep(0.52, 0.7, fbm(p * 22.0 + 5.0))); s.gloss = 0.5; s.power = 34.0; }
  else if (m < 13.5) { s.albedo = vec3(0.03, 0.035, 0.04); s.gloss = 0.6; s.power = 90.0; s.glow = vec3(0.55, 0.33, 0.13) * 0.35 * lampGlow; }
  else if (m < 14.5) { s.albedo = mix(vec3(0.17, 0.165, 0.15), vec3(0.25, 0.235, 0.21), fbm(p * vec3(2.0, 2.0, 1.0))); }
  else { s.albedo = vec3(0.035); s.gloss = 0.12; }
  return s;
}

vec3 shade(vec3 p, vec3 d, float t, float m) {
  vec3 n = normalAt(p, scene == 1 ? 0.0006 : 0.0012 + 0.0004 * t);
  if (m == 10.0 || m == 2.0) n = normalize(n + 0.10 * (vec3(fbm(p * 31.0), fbm(p * 29.0 + 3.0), fbm(p * 33.0 + 8.0)) - 0.48));
  Surface s = surfaceOf(m, p, n);
  float far = scene == 1 ? 3.0 : 16.0;
  float sh = shadow(p + n * (scene == 1 ? 0.002 : 0.012), sun, scene == 1 ? 14.0 : 15.0, far);
  float ao = occlusion(p, n, scene == 1 ? 0.12 : 0.75);
  float dif = max(dot(n, sun), 0.0);
  vec3 hv = normalize(sun - d);
  float spec = s.gloss * pow(max(dot(n, hv), 0.0), s.power) * (s.power + 8.0) / 25.0;
  vec3 up = mix(skyLow * 0.55 * vec3(0.8, 0.72, 0.6), mix(skyLow, skyHigh, 0.6), 0.5 + 0.5 * n.y);
  vec3 c = s.albedo * (sunColour * dif * sh * 2.2 + up * ao * 0.95);
  c += spec * sunColour * sh;
  float fr = pow(1.0 - max(dot(n, -d), 0.0), 5.0);
  c += s.gloss * (0.15 + 0.85 * fr) * sky(reflect(d, n)) * ao * 0.55;
  if (m == 8.0) c += s.albedo * sunColour * 0.45 * sh * pow(max(dot(d, sun), 0.0), 2.0);
  // light of the lamp itself
  vec3 lp = scene == 1 ? vec3(0, 0.215, 0) : vec3(2.55, 4.28, -0.9);
  vec3 l = lp - p; float ld = length(l); l /= ld;
  float reach = scene == 1 ? 0.016 / (ld * ld + 0.004) : 0.55 / (ld * ld + 0.3);
  float lsh = m == 7.0 ? 1.0 : scene == 1 ? mix(0.12, 1.0, shadow(p + n * 0.004, l, 9.0, max(ld - 0.13, 0.02))) : 1.0;
  c += s.albedo * vec3(1.0, 0.62, 0.27) * reach * lampGlow * lsh * max(dot(n, l) * 0.85 + 0.15, 0.0);
  return c + s.glow;
}

float waves(vec2 p) {
  float w = 0.0; vec2 q = p;
  w += 0.030 * sin(q.x * 0.9 + q.y * 1.7) + 0.018 * sin(q.x * 2.3 - q.y * 1.1 + 1.0);
  w += 0.045 * (noise(q * vec2(1.1, 2.6)) - 0.5) + 0.020 * (noise(q * vec2(3.7, 7.1) + 3.0) - 0.5) + 0.008 * (noise(q * vec2(11.0, 19.0)) - 0.5);
  return w;
}

vec3 haze(vec3 c, vec3 d, float t) {
  float s = max(dot(d, sun), 0.0);
  vec3 air = skyLow + sunColour * (0.30 * pow(s, 5.0) + 0.25 * pow(s, 40.0));
  return mix(air, c, exp(-fog * t));
}

vec3 trace(vec3 o, vec3 d) {
  float far = scene == 1 ? 12.0 : 130.0;
  vec2 hit = march(o, d, far);
  if (scene == 1) {
    if (hit.y == 0.0) return skyLow;
    vec3 p = o + d * hit.x;
    if (hit.y == 12.0) {
      vec3 n = normalAt(p, 0.0006);
      float fr = 0.06 + 0.94 * pow(1.0 - abs(dot(n, -d)), 4.0);
      vec3 o2 = p + d * 0.012; vec2 in1 = march(o2, d, far);
      vec3 p2 = o2 + d * in1.x; vec3 behind;
      if (in1.y == 12.0) { vec3 o3 = p2 + d * 0.012; vec2 in2 = march(o3, d, far); behind = shade(o3 + d * in2.x, d, in2.x, in2.y == 12.0 ? 13.0 : in2.y); }
      else behind = shade(p2, d, in1.x, in1.y);
      float near = length(cross(vec3(0, 0.225, 0) - o, d)); 
      vec3 halo = vec3(1.0, 0.56, 0.2) * lampGlow * (0.62 * exp(-near * 26.0) + 0.16 * exp(-near * 8.0));
      return behind * vec3(0.93, 0.9, 0.82) * (1.0 - 0.6 * fr) + halo + fr * (sky(reflect(d, n)) * 0.35 + sunColour * 1.2 * pow(max(dot(reflect(d, n), sun), 0.0), 180.0));
    }
    return shade(p, d, hit.x, hit.y);
  }
  float tw = d.y < 0.0 ? -o.y / d.y : 1e9;
  vec3 c;
  if (tw < hit.x || (hit.y == 0.0 && tw < far)) {
    vec3 p = o + d * tw; float e = 0.012 + tw * 0.0022;
    float w0 = waves(p.xz); float k = 1.0 / (1.0 + tw * 0.045);
    vec3 n = normalize(vec3((w0 - waves(p.xz + vec2(e, 0))) / e * k, 1.0, (w0 - waves(p.xz + vec2(0, e))) / e * k));
    vec3 r = reflect(d, n); r.y = abs(r.y) + 0.002;
    vec2 rh = march(p + vec3(0, 0.03, 0), r, 60.0);
    vec3 rc = rh.y == 0.0 ? sky(r) : shade(p + r * rh.x, r, rh.x, rh.y);
    rc = haze(rc, r, rh.y == 0.0 ? 60.0 : rh.x);
    float fr = 0.03 + 0.97 * pow(1.0 - max(dot(n, -d), 0.0), 5.0);
    vec3 deep = mix(vec3(0.085, 0.085, 0.062), vec3(0.12, 0.115, 0.08), noise(p.xz * 0.3)) * (skyLow + 0.25 * sunColour);
    c = mix(deep, rc, clamp(fr * 1.15, 0.0, 1.0));
    c += sunColour * 1.4 * pow(max(dot(reflect(d, n), sun), 0.0), 220.0) * shadow(p + vec3(0, 0.05, 0), sun, 12.0, 14.0);
    return haze(c, d, tw);
  }
  if (hit.y == 0.0) return haze(sky(d), d, d.y < 0.04 ? 90.0 : 90.0 * exp(-(d.y - 0.04) * 16.0));
  vec3 p = o + d * hit.x;
  c = haze(shade(p, d, hit.x, hit.y), d, hit.x);
  return c;
}

void main() {
  vec3 f = normalize(target - eye), r = normalize(cross(f, vec3(0, 1, 0))), u = cross(r, f);
  float lens = focal / 36.0;   // half the frame's longest side lies at 18 mm
  vec3 sum = vec3(0);
  for (int i = 0; i < 4; i++) {
    vec2 j = vec2(i == 0 ? 0.125 : i == 1 ? 0.625 : i == 2 ? 0.375 : 0.875, i == 0 ? 0.375 : i == 1 ? 0.125 : i == 2 ? 0.875 : 0.625);
    vec2 px = vec2(gl_FragCoord.x - 0.5 + j.x, top - gl_FragCoord.y + 0.5 - j.y);
    vec2 q = (px - 0.5 * size) / max(size.x, size.y);
    vec3 d = normalize(f * lens + r * q.x - u * q.y);
    vec3 c = trace(eye, d);
    c = c * 1.05; c = (c * (2.51 * c + 0.03)) / (c * (2.43 * c + 0.59) + 0.14);
    sum += clamp(c, 0.0, 1.0);
  }
  vec3 c = pow(sum / 4.0, vec3(1.0 / 2.2));
  vec2 v = (vec2(gl_FragCoord.x, top - gl_FragCoord.y) / size - 0.5);
  c *= 1.0 - 0.30 * dot(v, v);
  c += (hash(gl_FragCoord.xy + top) - 0.5) / 255.0 * 2.5;
  colour = vec4(c, 1.0);
}
`;
