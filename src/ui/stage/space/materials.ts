/** Shaders of the space view: beams as cones of haze, and what a surface shows of the light that falls on it. */
import * as THREE from 'three';
import { PATTERNS } from '@/core/rig/patterns';

/** Patterns in one texture: white where light goes through. */
export const PATTERN_NAMES = Object.keys(PATTERNS);
const CELL = 96;
/** How patterns lie in their one picture. */
export const ATLAS = { columns: 4, rows: 4 } as const;

/** Draws that picture. */
export function patternAtlas(): THREE.CanvasTexture {
  const canvas = document.createElement('canvas');
  canvas.width = CELL * ATLAS.columns;
  canvas.height = CELL * ATLAS.rows;
  const g = canvas.getContext('2d');
  if (g) {
    g.fillStyle = '#000';
    g.fillRect(0, 0, canvas.width, canvas.height);
    PATTERN_NAMES.forEach((name, i) => {
      const path = PATTERNS[name];
      if (!path) return;
      g.save();
      g.translate((i % ATLAS.columns) * CELL, Math.floor(i / ATLAS.columns) * CELL);
      g.scale(CELL / 24, CELL / 24);
      g.strokeStyle = '#fff';
      g.fillStyle = '#fff';
      g.lineWidth = 2.4;
      g.lineCap = 'round';
      g.stroke(new Path2D(path));
      g.fill(new Path2D(path));
      g.restore();
    });
  }
  const texture = new THREE.CanvasTexture(canvas);
  texture.flipY = false;
  return texture;
}

/** Cones of haze from a tip (`along` 0) to their far end (1), adding light. */
export function beamMaterial(): THREE.ShaderMaterial {
  return new THREE.ShaderMaterial({
    transparent: true,
    depthWrite: false,
    blending: THREE.AdditiveBlending,
    side: THREE.FrontSide,
    vertexShader: `
      attribute vec3 light;
      attribute float along;
      flat varying vec3 vLight;
      varying float vAlong;
      varying float vFacing;
      void main() {
        vLight = light;
        vAlong = along;
        vFacing = abs(dot(normalize(normal), normalize(cameraPosition - position)));
        gl_Position = projectionMatrix * viewMatrix * vec4(position, 1.0);
      }`,
    fragmentShader: `
      flat varying vec3 vLight;
      varying float vAlong;
      varying float vFacing;
      void main() {
        float body = vFacing * vFacing;
        float fall = (1.0 - vAlong) * (1.0 - vAlong) * 0.75 + 0.16 * (1.0 - vAlong * 0.7);
        gl_FragColor = vec4(vLight * body * fall, 1.0);
      }`,
  });
}

/** A rectangle of a surface with one beam on it; the edge, the pattern and the fall of light are counted for every point. */
export function poolMaterial(atlas: THREE.Texture): THREE.ShaderMaterial {
  return new THREE.ShaderMaterial({
    transparent: true,
    depthWrite: false,
    depthTest: true,
    polygonOffset: true,
    polygonOffsetFactor: -2,
    polygonOffsetUnits: -2,
    blending: THREE.AdditiveBlending,
    side: THREE.DoubleSide,
    uniforms: { atlas: { value: atlas } },
    vertexShader: `
      attribute vec3 source;
      attribute vec3 axis;
      attribute vec3 light;
      attribute vec4 shape;
      varying vec3 vPoint;
      flat varying vec3 vSource;
      flat varying vec3 vAxis;
      flat varying vec3 vLight;
      flat varying vec4 vShape;
      void main() {
        vPoint = position;
        vSource = source;
        vAxis = axis;
        vLight = light;
        vShape = shape;
        gl_Position = projectionMatrix * viewMatrix * vec4(vPoint, 1.0);
      }`,
    fragmentShader: `
      uniform sampler2D atlas;
      varying vec3 vPoint;
      flat varying vec3 vSource;
      flat varying vec3 vAxis;
      flat varying vec3 vLight;
      /* tangent of half the angle, softness of the edge, pattern or -1, its turn */
      flat varying vec4 vShape;
      void main() {
        vec3 ray = vPoint - vSource;
        float ahead = dot(ray, vAxis);
        if (ahead <= 0.0) discard;
        vec3 off = ray / ahead - vAxis;
        float r = length(off) / vShape.x;
        float soft = max(0.02, vShape.y);
        float lit = 1.0 - smoothstep(1.0 - soft, 1.0, r);
        if (lit <= 0.002) discard;
        if (vShape.z >= 0.0) {
          vec3 right = normalize(cross(vAxis, abs(vAxis.y) > 0.99 ? vec3(0.0, 0.0, 1.0) : vec3(0.0, 1.0, 0.0)));
          vec3 up = cross(right, vAxis);
          vec2 p = vec2(dot(off, right), dot(off, up)) / vShape.x;
          float c = cos(vShape.w), s = sin(vShape.w);
          p = mat2(c, -s, s, c) * p;
          vec2 cell = vec2(mod(vShape.z, 4.0), floor(vShape.z / 4.0));
          lit *= texture2D(atlas, (cell + clamp(p * 0.5 + 0.5, 0.02, 0.98)) / 4.0).r * 0.95 + 0.05;
        }
        float far = length(ray);
        gl_FragColor = vec4(vLight * lit * (14.0 / (14.0 + far * far)) * (0.55 + 0.45 * (1.0 - r * r * soft)), 1.0);
      }`,
  });
}
