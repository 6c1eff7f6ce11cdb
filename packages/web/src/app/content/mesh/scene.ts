import {
  AmbientLight,
  BufferAttribute,
  BufferGeometry,
  Color,
  DirectionalLight,
  DoubleSide,
  EdgesGeometry,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh as Drawn,
  MeshBasicMaterial,
  MeshLambertMaterial,
  OrthographicCamera,
  Raycaster,
  Scene,
  SphereGeometry,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { toCreasedNormals } from 'three/examples/jsm/utils/BufferGeometryUtils.js';
import type { Mesh } from '@inkwell-twin/core/solids';

/** A solid as it is to be looked at. */
export interface ShownSolid {
  readonly mesh: Mesh;
  readonly colour: string;
  /** A ghost is seen through. */
  readonly ghost?: boolean;
  /** Made of flat steps: each triangle is as it lies, and no edge is drawn. */
  readonly stepped?: boolean;
  /** Triangles that stand out, in the colour of differences. */
  readonly highlighted?: readonly number[];
}
export type Spot = readonly [number, number, number];

/** Where one stands, for each way of looking; the trade's first names. */
export const LOOKS = {
  front: [0, -1, 0],
  right: [1, 0, 0],
  top: [0, -0.0001, 1],
  back: [0, 1, 0],
  left: [-1, 0, 0],
  isometric: [1, -1.2, 0.9],
} as const;
export type Look = keyof typeof LOOKS;

/** Triangles up to which corners and creases are worked out. */
const FINE = 250_000;
/** Creases sharper than this are drawn as edges, degrees. */
const CREASE = 24;
const TURN = Math.PI / 12;

function geometryOf({ positions, triangles }: Mesh, which?: readonly number[]): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(positions), 3));
  const index = which
    ? Uint32Array.from(
        which.flatMap((t) => [3 * t, 3 * t + 1, 3 * t + 2]),
        (k) => triangles[k]!,
      )
    : triangles;
  geometry.setIndex(new BufferAttribute(index, 1));
  return geometry;
}

/** The lowest corner of what is stepped is so much darker than the highest. */
const DARKEST = 0.55;

/** Corners darker the lower they lie: levels that face the same way are told apart. */
function shadesOf({ positions }: Mesh): BufferAttribute {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 2; i < positions.length; i += 3) {
    low = Math.min(low, positions[i]!);
    high = Math.max(high, positions[i]!);
  }
  const shades = new Float32Array(positions.length);
  for (let i = 0; i < positions.length; i += 3)
    shades.fill(1 - DARKEST * (high > low ? (high - positions[i + 2]!) / (high - low) : 0), i, i + 3);
  return new BufferAttribute(shades, 3);
}

/** Draws solids on a canvas, to be turned by mouse and keys. Draws only when something changed. */
export class SolidScene {
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly camera = new OrthographicCamera(-1, 1, 1, -1, -1e6, 1e6);
  private readonly controls: OrbitControls;
  private readonly lamp = new DirectionalLight('#ffffff', 2.1);
  private solids = new Group();
  private marks = new Group();
  private reach = 100;
  private middle = new Vector3();
  private asked = 0;
  private fitted = false;

  constructor(private readonly host: HTMLElement) {
    this.renderer = new WebGLRenderer({ antialias: true, alpha: true });
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    host.append(this.renderer.domElement);
    this.camera.up.set(0, 0, 1);
    this.controls = new OrbitControls(this.camera, this.renderer.domElement);
    this.controls.addEventListener('change', () => this.draw());
    this.scene.add(new AmbientLight('#ffffff', 1.15), this.lamp, this.solids, this.marks);
    this.look('isometric');
  }

  private ink(name: string): Color {
    return new Color(getComputedStyle(this.host).getPropertyValue(name).trim() || '#14213a');
  }

  show(solids: readonly ShownSolid[]): void {
    this.empty(this.solids);
    for (const { mesh, colour, ghost = false, stepped = false, highlighted } of solids) {
      const plain = geometryOf(mesh);
      const fine = !stepped && mesh.triangles.length / 3 <= FINE;
      const geometry = fine ? toCreasedNormals(plain, (CREASE * Math.PI) / 180) : plain;
      if (!fine && !stepped) geometry.computeVertexNormals();
      if (stepped) geometry.setAttribute('color', shadesOf(mesh));
      const material = new MeshLambertMaterial({
        color: colour || this.ink('--ink-three'),
        vertexColors: stepped,
        side: DoubleSide,
        flatShading: stepped,
        transparent: ghost,
        opacity: ghost ? 0.28 : 1,
        depthWrite: !ghost,
        polygonOffset: true,
        polygonOffsetFactor: 1,
        polygonOffsetUnits: 1,
      });
      this.solids.add(new Drawn(geometry, material));
      if (fine)
        this.solids.add(
          new LineSegments(
            new EdgesGeometry(plain, CREASE),
            new LineBasicMaterial({ color: this.ink('--ink'), transparent: ghost, opacity: ghost ? 0.35 : 1 }),
          ),
        );
      if (highlighted?.length)
        this.solids.add(
          new Drawn(
            geometryOf(mesh, highlighted),
            new MeshBasicMaterial({
              color: this.ink('--difference'),
              side: DoubleSide,
              polygonOffset: true,
              polygonOffsetFactor: -2,
              polygonOffsetUnits: -2,
            }),
          ),
        );
    }
    this.measure(solids.map(({ mesh }) => mesh));
    if (!this.fitted && solids.length) this.look('isometric');
    this.draw();
  }

  private measure(meshes: readonly Mesh[]): void {
    const [low, high] = [new Vector3(Infinity, Infinity, Infinity), new Vector3(-Infinity, -Infinity, -Infinity)];
    for (const { positions } of meshes)
      for (let i = 0; i < positions.length; i += 3) {
        const [x, y, z] = [positions[i]!, positions[i + 1]!, positions[i + 2]!];
        low.set(Math.min(low.x, x), Math.min(low.y, y), Math.min(low.z, z));
        high.set(Math.max(high.x, x), Math.max(high.y, y), Math.max(high.z, z));
      }
    if (!Number.isFinite(low.x)) return;
    this.middle = low.clone().add(high).multiplyScalar(0.5);
    this.reach = Math.max(1e-3, high.distanceTo(low) / 2);
  }

  /** Places that are pointed at. */
  point(spots: readonly { readonly at: Spot; readonly chosen: boolean }[]): void {
    this.empty(this.marks);
    for (const { at, chosen } of spots) {
      const ball = new Drawn(
        new SphereGeometry(this.reach * (chosen ? 0.035 : 0.022), 20, 14),
        new MeshBasicMaterial({
          color: this.ink(chosen ? '--action' : '--difference'),
          transparent: true,
          opacity: 0.75,
          depthTest: false,
        }),
      );
      ball.position.set(...(at as [number, number, number]));
      ball.renderOrder = 2;
      this.marks.add(ball);
    }
    this.draw();
  }

  look(from: Look): void {
    const [x, y, z] = LOOKS[from];
    this.camera.position.copy(
      new Vector3(x, y, z)
        .normalize()
        .multiplyScalar(4 * this.reach)
        .add(this.middle),
    );
    this.controls.target.copy(this.middle);
    this.camera.zoom = 1;
    this.frame();
    this.controls.update();
    this.fitted = this.solids.children.length > 0;
    this.draw();
  }

  /** Turns about the upright axis until a place is in front; how high one stands stays. */
  face(at: Spot): void {
    const [x, y] = [at[0] - this.middle.x, at[1] - this.middle.y];
    if (Math.hypot(x, y) < 0.05 * this.reach) return;
    const way = this.camera.position.clone().sub(this.middle);
    const [flat, out] = [Math.hypot(way.x, way.y), Math.hypot(x, y)];
    // What is in front already stays where it is.
    if ((way.x * x + way.y * y) / (flat * out) > 0.3) return;
    this.camera.position.set(this.middle.x + (flat * x) / out, this.middle.y + (flat * y) / out, this.camera.position.z);
    this.controls.target.copy(this.middle);
    this.controls.update();
    this.draw();
  }

  /** By one step to the right and up. */
  turn(right: number, up: number): void {
    const out = this.camera.position.clone().sub(this.controls.target);
    out.applyAxisAngle(new Vector3(0, 0, 1), right * TURN);
    const axis = new Vector3().crossVectors(new Vector3(0, 0, 1), out).normalize();
    const tilted = out.clone().applyAxisAngle(axis, -up * TURN);
    const steep = Math.abs(tilted.clone().normalize().z);
    this.camera.position.copy(steep > 0.9999 ? out.add(this.controls.target) : tilted.add(this.controls.target));
    this.controls.update();
    this.draw();
  }

  zoom(factor: number): void {
    this.camera.zoom = Math.min(200, Math.max(0.05, this.camera.zoom * factor));
    this.frame();
    this.draw();
  }

  /** The place of a solid below a place of the window; null where there is none. */
  pick(x: number, y: number): Spot | null {
    const { left, top, width, height } = this.host.getBoundingClientRect();
    const ray = new Raycaster();
    ray.setFromCamera(new Vector2((2 * (x - left)) / width - 1, 1 - (2 * (y - top)) / height), this.camera);
    const found = ray.intersectObjects(this.solids.children.filter((one) => one instanceof Drawn))[0];
    return found ? [found.point.x, found.point.y, found.point.z] : null;
  }

  private frame(): void {
    const { clientWidth: width, clientHeight: height } = this.host;
    if (!width || !height) return;
    const half = 1.18 * this.reach;
    const [across, up] = width > height ? [(half * width) / height, half] : [half, (half * height) / width];
    Object.assign(this.camera, { left: -across, right: across, top: up, bottom: -up });
    this.camera.updateProjectionMatrix();
  }

  resize(): void {
    this.renderer.setSize(this.host.clientWidth, this.host.clientHeight);
    this.frame();
    this.draw();
  }

  private draw(): void {
    if (this.asked) return;
    this.asked = requestAnimationFrame(() => {
      this.asked = 0;
      // The light stands at the eye's left shoulder.
      const way = this.camera.position.clone().sub(this.controls.target);
      const side = new Vector3()
        .crossVectors(this.camera.up, way)
        .normalize()
        .multiplyScalar(-0.5 * way.length());
      this.lamp.position
        .copy(way)
        .add(side)
        .add(new Vector3(0, 0, 0.6 * way.length()));
      this.renderer.render(this.scene, this.camera);
      this.host.dataset['drawn'] = String(Number(this.host.dataset['drawn'] ?? 0) + 1);
    });
  }

  private empty(group: Group): void {
    for (const one of [...group.children] as (Drawn | LineSegments)[]) {
      one.geometry.dispose();
      for (const material of Array.isArray(one.material) ? one.material : [one.material]) material.dispose();
      group.remove(one);
    }
  }

  close(): void {
    cancelAnimationFrame(this.asked);
    this.empty(this.solids);
    this.empty(this.marks);
    this.controls.dispose();
    this.renderer.dispose();
    this.renderer.forceContextLoss();
    this.renderer.domElement.remove();
  }
}
