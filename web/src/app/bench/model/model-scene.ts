import { radians } from '@plain-relief/core/geometry';
import { type SectionLine } from '@plain-relief/core/sign';
import {
  AmbientLight,
  BufferAttribute,
  BufferGeometry,
  Color,
  DirectionalLight,
  DoubleSide,
  InstancedMesh,
  type Material,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  MeshStandardMaterial,
  OrthographicCamera,
  PCFShadowMap,
  PerspectiveCamera,
  Plane,
  PlaneGeometry,
  PMREMGenerator,
  Raycaster,
  RingGeometry,
  Scene,
  ShadowMaterial,
  Shape,
  ShapeGeometry,
  type Sphere,
  SRGBColorSpace,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { RoomEnvironment } from 'three/examples/jsm/environments/RoomEnvironment.js';
import type { ModelView, SectionView } from '../../relief/views';
import type { ObjectView } from '../context/context.service';
import { ContextObject, type ObjectHit } from './context-object';
import { distanceFor } from './framing';

/** Directions to look from, as x, y, z. */
export const VIEWS = {
  front: [0, 0, 1],
  'three-quarter': [-0.42, -0.5, 1],
  /** Of a block, its front with its right side and top. */
  corner: [0.7, 0.55, 1],
  above: [0, 1, 0.35],
  left: [-1, -0.05, 0.45],
  right: [1, -0.05, 0.45],
  below: [0, -1, 0.35],
  back: [0, 0, -1],
} as const;
export type ViewName = keyof typeof VIEWS;

const LIGHTS = { left: -1, right: 1 } as const;

/** How light is thrown back by a gloss. */
const SURFACES = {
  matt: { roughness: 0.92, metalness: 0, envMapIntensity: 0.05 },
  satin: { roughness: 0.55, metalness: 0, envMapIntensity: 0.08 },
  gloss: { roughness: 0.18, metalness: 0, envMapIntensity: 0.16 },
  metal: { roughness: 0.45, metalness: 0.7, envMapIntensity: 0.34 },
} as const;
/** Quiet after which a rough model is drawn in full, in ms. */
const REST_MS = 320;
/** Pixels of a rough model for each of the screen. */
const DRAFT_RATIO = 0.5;
/** The same of a fine one that the processor draws, which smooths its edges. */
const FINE_RATIO = 1.5;
const POINTER = ['pointerdown', 'pointerup', 'pointercancel'] as const;
const CUT_COLOUR = '#d9cdb4';
const MARK_COLOUR = '#a5281f';
const MOST_MARKS = 60;
/** Radius of a mark in that of the model. */
const MARK = 0.035;

/** The turnable model in a canvas. It draws only when something has changed. */
export class ModelScene {
  /** Frames take long: what moves is drawn roughly, and finely when it rests. */
  private readonly isSlow = isDrawnByProcessor();
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly perspective = new PerspectiveCamera(28, 1, 1, 100_000);
  private readonly straight = new OrthographicCamera();
  private readonly controls: OrbitControls;
  private readonly geometry = new BufferGeometry();
  private readonly light = new DirectionalLight(0xffffff, 2.5);
  private readonly wall = new Mesh(new PlaneGeometry(1, 1), new ShadowMaterial({ opacity: 0.28 }));
  private readonly materials = Object.values(SURFACES).map(
    (surface) => new MeshStandardMaterial({ vertexColors: true, ...surface }),
  );
  private readonly plain = new MeshStandardMaterial({ vertexColors: true, ...SURFACES.matt });
  /** Cheap to draw, for as long as something moves where there is no graphics card. */
  private readonly draft = new MeshLambertMaterial({ vertexColors: true });
  private readonly mesh = new Mesh<BufferGeometry, Material | Material[]>(this.geometry, this.plain);
  private readonly face = new Mesh(new BufferGeometry(), new MeshStandardMaterial({ color: CUT_COLOUR, roughness: 1, side: DoubleSide })); // prettier-ignore
  private readonly object = new ContextObject();
  /** Rings around places, seen through everything. */
  private readonly marks = new InstancedMesh(new RingGeometry(0.8, 1, 32), new MeshBasicMaterial({ color: MARK_COLOUR, depthTest: false, transparent: true, side: DoubleSide }), MOST_MARKS); // prettier-ignore
  private readonly ratio = this.isSlow ? FINE_RATIO : Math.min(2, devicePixelRatio);
  private isStraight = false;
  private lightSide: keyof typeof LIGHTS = 'left';
  private size = { width: 1, height: 1 };
  private frame = 0;
  private resting: ReturnType<typeof setTimeout> | undefined;
  private isInFinishes = false;
  private isDraft = false;
  private isHeld = false;
  private readonly hold = (event: PointerEvent): void => void (this.isHeld = event.buttons > 0);
  private hasModel = false;
  private looksAnew = false;
  private isOnWall = true;

  constructor(canvas: HTMLCanvasElement) {
    this.renderer = new WebGLRenderer({ canvas, antialias: !this.isSlow });
    this.renderer.outputColorSpace = SRGBColorSpace;
    this.renderer.setPixelRatio(this.ratio);
    this.renderer.localClippingEnabled = true;
    this.renderer.shadowMap.enabled = true;
    this.renderer.shadowMap.type = PCFShadowMap;
    // Shadows change with the model and the light, not with the place that it is looked at from.
    this.renderer.shadowMap.autoUpdate = false;
    this.scene.background = new Color('#e9dfc8');
    this.mesh.frustumCulled = false;
    this.mesh.castShadow = this.mesh.receiveShadow = true;
    this.wall.receiveShadow = true;
    this.face.visible = false;
    this.light.castShadow = true;
    this.light.shadow.mapSize.set(2048, 2048);
    this.light.shadow.radius = 4;
    this.marks.count = 0;
    this.marks.frustumCulled = false;
    this.marks.renderOrder = 1;
    this.scene.add(
      this.mesh,
      this.object.group,
      this.wall,
      this.face,
      this.marks,
      new AmbientLight(0xffffff, 0.8),
      this.light,
      this.light.target,
    );
    for (const type of POINTER) addEventListener(type, this.hold, true);
    this.controls = new OrbitControls(this.perspective, canvas);
    this.controls.addEventListener('change', () => {
      this.stir();
      this.draw();
    });
  }

  /** @param isOnWall whether it hangs on one */
  show({ positions, normals, colours, finishes, glosses }: ModelView, worn: 'heights' | 'finishes', isOnWall = true): void {
    const { geometry } = this;
    geometry.setAttribute('position', new BufferAttribute(positions, 3));
    geometry.setAttribute('normal', new BufferAttribute(normals, 3));
    geometry.setAttribute('color', new BufferAttribute(worn === 'finishes' ? finishes : colours, 3));
    geometry.setDrawRange(0, positions.length / 3);
    geometry.clearGroups();
    let start = 0;
    for (const { gloss, count } of glosses) {
      if (count > 0) geometry.addGroup(start, count, Object.keys(SURFACES).indexOf(gloss));
      start += count;
    }
    this.isInFinishes = worn === 'finishes';
    this.isOnWall = isOnWall;
    if (this.isInFinishes) this.reflect();
    this.wear();
    geometry.computeBoundingBox();
    geometry.computeBoundingSphere();
    this.lit();
    if ((!this.hasModel || this.looksAnew) && positions.length > 0) {
      this.hasModel = true;
      this.looksAnew = false;
      this.look(this.first);
    }
    this.draw();
  }

  /** Cuts the model open along a section and takes away what lies before it; undefined closes it again. */
  cutOpen(section: SectionView | undefined): void {
    const planes = section ? [planeOf(section.line)] : [];
    for (const material of [...this.materials, this.plain, this.draft]) {
      material.clippingPlanes = planes;
      material.clipShadows = true;
      material.side = section ? DoubleSide : 0;
      material.needsUpdate = true;
    }
    this.face.visible = section !== undefined;
    if (section) {
      this.face.geometry.dispose();
      this.face.geometry = new ShapeGeometry(section.profiles.map(shapeOf));
      const { x, y, turn } = section.line;
      // Along the line, then up: the shape is drawn in the plane of the cut.
      this.face.position.set(x, y, 0);
      this.face.rotation.set(Math.PI / 2, 0, 0);
      this.face.rotation.order = 'ZYX';
      this.face.rotation.z = radians(turn);
    }
    this.renderer.shadowMap.needsUpdate = true;
    this.draw();
  }

  /** A pane of another size shows as much of the model as before: the cameras go nearer or further off. */
  resize(width: number, height: number): void {
    const by = distanceFor(width / Math.max(1, height)) / distanceFor(this.perspective.aspect);
    this.size = { width, height };
    this.renderer.setSize(width, height, false);
    for (const camera of [this.perspective, this.straight]) {
      camera.position.sub(this.controls.target).multiplyScalar(by).add(this.controls.target);
      camera.near *= by;
      camera.far *= by;
    }
    this.fitCameras(width / Math.max(1, height));
    this.render();
  }

  /** Looks at the model from a side, or from a direction. */
  look(from: ViewName | readonly [number, number, number]): void {
    if (this.geometry.boundingSphere)
      this.frameAround(this.geometry.boundingSphere, typeof from === 'string' ? VIEWS[from] : from);
  }

  /** Looks at all of the object that the sign is for, and at the sign. */
  lookAtObject(): void {
    const sphere = this.object.sphere;
    if (!sphere) return;
    if (this.geometry.boundingSphere) sphere.union(this.geometry.boundingSphere);
    this.frameAround(sphere, VIEWS[this.first]);
  }

  private frameAround(sphere: Sphere, from: readonly [number, number, number]): void {
    const direction = new Vector3(...from).normalize();
    const half = (this.perspective.fov * Math.PI) / 360;
    const distance = ((sphere.radius * 1.02) / Math.sin(half)) * distanceFor(this.perspective.aspect);
    this.controls.target.copy(sphere.center);
    for (const camera of [this.perspective, this.straight]) {
      camera.position.copy(sphere.center).addScaledVector(direction, distance);
      camera.near = distance / 100;
      camera.far = distance * 4;
    }
    this.straight.zoom = 1;
    this.fitCameras(this.size.width / Math.max(1, this.size.height));
    this.controls.update();
    if (!this.isOnWall) this.lit();
    this.draw();
  }

  /** Without perspective, or with it; what is looked at stays. */
  project(how: 'straight' | 'perspective'): void {
    this.isStraight = how === 'straight';
    const [from, to] = this.isStraight ? [this.perspective, this.straight] : [this.straight, this.perspective];
    to.position.copy(from.position);
    this.controls.object = to;
    this.fitCameras(this.size.width / Math.max(1, this.size.height));
    this.controls.update();
    this.draw();
  }

  /** The place of the model at a point of the canvas, in mm; undefined where there is none. @param across, down from −1 to 1 */
  placeAt(across: number, down: number): readonly [number, number, number] | undefined {
    const [hit] = this.rayAt(across, down).intersectObject(this.mesh, false);
    return hit && [hit.point.x, hit.point.y, hit.point.z];
  }

  /** The place of the object at a point of the canvas, where the sign is not before it. */
  objectAt(across: number, down: number): ObjectHit | undefined {
    const ray = this.rayAt(across, down);
    const found = this.object.hit(ray);
    const [sign] = ray.intersectObject(this.mesh, false);
    return found && !(sign && sign.distance < found.distance) ? found : undefined;
  }

  private rayAt(across: number, down: number): Raycaster {
    const ray = new Raycaster();
    ray.setFromCamera(new Vector2(across, -down), this.isStraight ? this.straight : this.perspective);
    return ray;
  }

  /** Shows the object that the sign is for, without the wall; undefined takes it away. */
  showObject(object: ObjectView | undefined): void {
    const { place } = this.object;
    const isNew = this.object.show(object);
    this.lit();
    if (isNew && object?.isAdded) {
      this.lookAtObject();
      // Also where the sign is made only later.
      this.hasModel = true;
    }
    // Where the sign was laid on it, it is the sign that is looked at, once it is made.
    else if (object && object.place !== place) this.looksAnew = true;
    this.draw();
  }

  /** Marks places of the plan. @param z mm above the face; on top of the model where nothing is said */
  mark(places: readonly { readonly x: number; readonly y: number }[], z?: number): void {
    const { boundingBox: box, boundingSphere: sphere } = this.geometry;
    const radius = MARK * (sphere?.radius ?? 1);
    const count = Math.min(places.length, MOST_MARKS);
    if (count === 0 && this.marks.count === 0) return;
    for (let i = 0; i < count; i++) {
      const at = new Matrix4().makeTranslation(places[i].x, places[i].y, z ?? box?.max.z ?? 0);
      this.marks.setMatrixAt(i, at.scale(new Vector3(radius, radius, radius)));
    }
    this.marks.count = count;
    this.marks.instanceMatrix.needsUpdate = true;
    this.draw();
  }

  /** Where it is looked at from at first. */
  first: ViewName = 'three-quarter';

  lightFrom(side: keyof typeof LIGHTS): void {
    this.lightSide = side;
    this.lit();
    this.draw();
  }

  /** A room that surfaces throw back, from when finishes are first seen: it takes a moment to make. */
  private reflect(): void {
    if (this.materials[0].envMap) return;
    const maker = new PMREMGenerator(this.renderer);
    const around = maker.fromScene(new RoomEnvironment(), 0.04, 0.1, 100, { size: this.isSlow ? 32 : 128 }).texture;
    for (const material of this.materials) material.envMap = around;
    maker.dispose();
  }

  /** Puts light, shadow and wall where the model is; while it changes, shadows wait until it rests. */
  private lit(): void {
    const sphere = this.geometry.boundingSphere;
    const box = this.geometry.boundingBox;
    if (!sphere || !box) return;
    const { center, radius } = sphere;
    this.light.target.position.copy(center);
    this.light.position.copy(center).add(this.lightDirection().multiplyScalar(radius * 3));
    const { camera } = this.light.shadow;
    [camera.left, camera.right, camera.bottom, camera.top] = [-radius, radius, -radius, radius].map((mm) => mm * 1.15);
    [camera.near, camera.far] = [radius, radius * 5];
    camera.updateProjectionMatrix();
    this.light.shadow.normalBias = radius * 0.0012;
    // The wall that the sign hangs on.
    this.wall.visible = this.hasWall && !this.isDraft;
    this.wall.position.set(center.x, center.y, box.min.z - radius * 0.004);
    this.wall.scale.setScalar(radius * 8);
    this.renderer.shadowMap.needsUpdate = !this.isDraft;
    this.stir();
  }

  /** Where light comes from: from before a sign on a wall, and else from before what is looked at. */
  private lightDirection(): Vector3 {
    const direction = new Vector3(LIGHTS[this.lightSide] * 0.7, 0.8, 1.1).normalize();
    if (this.isOnWall) return direction;
    const camera = this.isStraight ? this.straight : this.perspective;
    return direction.applyQuaternion(camera.quaternion);
  }

  private get hasWall(): boolean {
    return this.isOnWall && !this.object.group.visible;
  }

  /** Something moves: where frames take long, what is seen is drawn roughly until it rests. */
  private stir(): void {
    if (!this.isSlow) return;
    this.drawAs('draft');
    this.rest();
  }

  /** Draws finely when nothing has moved for a while and nothing is held by the pointer. */
  private rest(): void {
    clearTimeout(this.resting);
    this.resting = setTimeout(() => (this.isHeld ? this.rest() : this.drawAs('final')), REST_MS);
  }

  private drawAs(quality: 'draft' | 'final'): void {
    const isDraft = quality === 'draft';
    if (isDraft === this.isDraft) return;
    this.isDraft = isDraft;
    this.light.castShadow = !isDraft;
    this.wall.visible = !isDraft && this.hasWall;
    this.renderer.setPixelRatio(isDraft ? DRAFT_RATIO : this.ratio);
    this.renderer.shadowMap.needsUpdate = !isDraft;
    this.wear();
    // At once: a canvas of another size is empty.
    this.render();
  }

  private wear(): void {
    this.mesh.material = this.isDraft ? this.draft : this.isInFinishes ? this.materials : this.plain;
  }

  /** What is seen as a picture (PNG), as wide as is asked for. @throws Error where the graphics cannot draw as large */
  async picture(width: number): Promise<Blob> {
    const height = Math.round((width * this.size.height) / this.size.width);
    const most = this.renderer.capabilities.maxTextureSize;
    if (Math.max(width, height) > most) throw new Error(`A picture may be ${most} pixels wide or high here.`);
    this.drawAs('final');
    this.renderer.setPixelRatio(1);
    this.renderer.setSize(width, height, false);
    this.render();
    // The canvas keeps its size until the picture has been taken off it.
    const blob = await new Promise<Blob | null>((resolve) => this.renderer.domElement.toBlob(resolve, 'image/png'));
    this.renderer.setPixelRatio(this.ratio);
    this.resize(this.size.width, this.size.height);
    if (!blob) throw new Error('The browser could not make a picture of this size: ask for a smaller one.');
    return blob;
  }

  dispose(): void {
    cancelAnimationFrame(this.frame);
    clearTimeout(this.resting);
    for (const type of POINTER) removeEventListener(type, this.hold, true);
    this.controls.dispose();
    this.geometry.dispose();
    this.object.dispose();
    this.renderer.dispose();
  }

  private fitCameras(aspect: number): void {
    const { perspective, straight } = this;
    perspective.aspect = aspect;
    perspective.updateProjectionMatrix();
    // As tall as the perspective shows it at the distance of its middle.
    const distance = straight.position.distanceTo(this.controls.target);
    const half = distance * Math.tan((perspective.fov * Math.PI) / 360);
    [straight.left, straight.right, straight.bottom, straight.top] = [-half * aspect, half * aspect, -half, half];
    straight.updateProjectionMatrix();
  }

  private render(): void {
    this.renderer.render(this.scene, this.isStraight ? this.straight : this.perspective);
  }

  private draw(): void {
    if (this.frame) return;
    this.frame = requestAnimationFrame(() => {
      this.frame = 0;
      this.render();
      // For whoever waits until it is seen.
      this.renderer.domElement.dispatchEvent(new Event('model-drawn', { bubbles: true }));
    });
  }
}

/** The plane of a section; what lies on the left of its line stays. */
function planeOf({ x, y, turn }: SectionLine): Plane {
  const angle = radians(turn);
  const normal = new Vector3(-Math.sin(angle), Math.cos(angle), 0);
  return new Plane(normal, -normal.dot(new Vector3(x, y, 0)));
}

function shapeOf(profile: Float64Array): Shape {
  return new Shape(Array.from({ length: profile.length / 2 }, (_, i) => new Vector2(profile[2 * i], profile[2 * i + 1])));
}

/** Whether the browser draws without a graphics card. */
function isDrawnByProcessor(): boolean {
  const context = document.createElement('canvas').getContext('webgl2');
  const names = context?.getExtension('WEBGL_debug_renderer_info');
  const name = context && names ? String(context.getParameter(names.UNMASKED_RENDERER_WEBGL)) : '';
  context?.getExtension('WEBGL_lose_context')?.loseContext();
  return /swiftshader|llvmpipe|software|basic render/iu.test(name);
}
