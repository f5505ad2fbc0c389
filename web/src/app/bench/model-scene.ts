import {
  AmbientLight,
  BufferAttribute,
  BufferGeometry,
  Color,
  DirectionalLight,
  Mesh,
  MeshStandardMaterial,
  PerspectiveCamera,
  Scene,
  SRGBColorSpace,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import type { ModelView } from '../relief/views';

/** Directions to look from, as x, y, z. */
export const VIEWS = {
  front: [0, 0, 1],
  'three-quarter': [-0.42, -0.5, 1],
  left: [-1, -0.05, 0.45],
  right: [1, -0.05, 0.45],
  below: [0, -1, 0.35],
  back: [0, 0, -1],
} as const;
export type ViewName = keyof typeof VIEWS;

const LIGHTS = { left: -1, right: 1 } as const;

/** The turnable model in a canvas. It draws only when something has changed. */
export class ModelScene {
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly camera = new PerspectiveCamera(28, 1, 1, 100_000);
  private readonly controls: OrbitControls;
  private readonly geometry = new BufferGeometry();
  private readonly light = new DirectionalLight(0xffffff, 2.6);
  private frame = 0;
  private hasModel = false;

  constructor(canvas: HTMLCanvasElement) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true });
    this.renderer.outputColorSpace = SRGBColorSpace;
    this.renderer.setPixelRatio(Math.min(2, devicePixelRatio));
    this.scene.background = new Color('#e9dfc8');
    const material = new MeshStandardMaterial({ vertexColors: true, roughness: 0.85, metalness: 0 });
    const mesh = new Mesh(this.geometry, material);
    mesh.frustumCulled = false;
    this.scene.add(mesh, new AmbientLight(0xffffff, 1.05), this.light);
    this.lightFrom('left');
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.addEventListener('change', () => this.draw());
  }

  show({ positions, normals, colours, finishes }: ModelView, isInFinishes: boolean): void {
    this.geometry.setAttribute('position', new BufferAttribute(positions, 3));
    this.geometry.setAttribute('normal', new BufferAttribute(normals, 3));
    this.geometry.setAttribute('color', new BufferAttribute(isInFinishes ? finishes : colours, 3));
    this.geometry.setDrawRange(0, positions.length / 3);
    this.geometry.computeBoundingSphere();
    if (!this.hasModel && positions.length > 0) {
      this.hasModel = true;
      this.look('three-quarter');
    }
    this.draw();
  }

  resize(width: number, height: number): void {
    this.renderer.setSize(width, height, false);
    this.camera.aspect = width / Math.max(1, height);
    this.camera.updateProjectionMatrix();
    this.draw();
  }

  look(name: ViewName): void {
    const sphere = this.geometry.boundingSphere;
    if (!sphere) return;
    const [x, y, z] = VIEWS[name];
    const half = (this.camera.fov * Math.PI) / 360;
    const distance = (sphere.radius * 1.02) / Math.sin(half) / Math.min(1, this.camera.aspect * 0.92);
    const length = Math.hypot(x, y, z);
    this.controls.target.copy(sphere.center);
    this.camera.position.set(
      sphere.center.x + (x / length) * distance,
      sphere.center.y + (y / length) * distance,
      sphere.center.z + (z / length) * distance,
    );
    this.camera.near = distance / 100;
    this.camera.far = distance * 4;
    this.camera.updateProjectionMatrix();
    this.controls.update();
    this.draw();
  }

  lightFrom(side: keyof typeof LIGHTS): void {
    this.light.position.set(LIGHTS[side] * 0.7, 0.8, 1);
    this.draw();
  }

  dispose(): void {
    cancelAnimationFrame(this.frame);
    this.controls.dispose();
    this.geometry.dispose();
    this.renderer.dispose();
  }

  private draw(): void {
    if (this.frame) return;
    this.frame = requestAnimationFrame(() => {
      this.frame = 0;
      this.renderer.render(this.scene, this.camera);
      // For whoever waits until it is seen.
      this.renderer.domElement.dispatchEvent(new Event('model-drawn', { bubbles: true }));
    });
  }
}
