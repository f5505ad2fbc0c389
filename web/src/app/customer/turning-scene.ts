import {
  AmbientLight,
  Box3,
  Color,
  DirectionalLight,
  type BufferGeometry,
  Mesh,
  type MeshStandardMaterial,
  type Object3D,
  PerspectiveCamera,
  Scene,
  SRGBColorSpace,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';

const FIELD = 32;
/** How far the sign is seen from aside and from above at first, in radians. */
const ASIDE = -0.32;
const ABOVE = 0.22;

/** A model file drawn so that it can be turned; drawn again only when something has moved. */
export class TurningScene {
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly camera = new PerspectiveCamera(FIELD, 1, 0.001, 100);
  private readonly controls: OrbitControls;
  private readonly observer: ResizeObserver;
  private model: Object3D | undefined;

  /** @throws Error where there is no WebGL */
  constructor(private readonly canvas: HTMLCanvasElement) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true });
    this.renderer.outputColorSpace = SRGBColorSpace;
    this.scene.background = new Color('#e9e1cf');
    this.scene.add(new AmbientLight('#ffffff', 1.5));
    const sun = new DirectionalLight('#ffffff', 2.4);
    sun.position.set(-1, 1.4, 1.6);
    this.scene.add(sun);
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.enablePan = false;
    this.controls.addEventListener('change', () => this.draw());
    this.observer = new ResizeObserver(() => this.fit());
    this.observer.observe(canvas);
  }

  /** Shows the model of a GLB file in place of the one before. */
  async show(address: string): Promise<void> {
    const { scene: model } = await new GLTFLoader().loadAsync(address);
    this.drop();
    this.model = model;
    // Without surroundings to mirror, bare metal would be black.
    for (const { material } of meshesOf(model)) material.metalness *= 0.3;
    this.scene.add(model);
    this.fit();
    const box = new Box3().setFromObject(model);
    const size = box.getSize(new Vector3());
    const middle = box.getCenter(new Vector3());
    const reach =
      Math.max(size.x / Math.min(1, this.camera.aspect), size.y * 1.1) / 2 / Math.tan((FIELD * Math.PI) / 360) + size.z;
    this.camera.position
      .set(Math.sin(ASIDE) * reach, Math.sin(ABOVE) * reach, Math.cos(ASIDE) * reach)
      .multiplyScalar(1.1)
      .add(middle);
    this.camera.near = reach / 100;
    this.camera.far = reach * 10;
    this.controls.target.copy(middle);
    this.controls.update();
    this.fit();
  }

  /** Turns the model by angles in radians. */
  turn(across: number, up: number): void {
    const from = this.camera.position.clone().sub(this.controls.target);
    from.applyAxisAngle(new Vector3(0, 1, 0), across);
    const right = new Vector3(0, 1, 0).cross(from).normalize();
    from.applyAxisAngle(right, up);
    this.camera.position.copy(this.controls.target).add(from);
    this.controls.update();
    this.draw();
  }

  dispose(): void {
    this.drop();
    this.observer.disconnect();
    this.controls.dispose();
    this.renderer.dispose();
  }

  /** Takes the model away, out of the graphics memory, too. */
  private drop(): void {
    if (!this.model) return;
    this.scene.remove(this.model);
    for (const { geometry, material } of meshesOf(this.model)) {
      geometry.dispose();
      material.dispose();
    }
  }

  private fit(): void {
    const { clientWidth, clientHeight } = this.canvas;
    if (clientWidth === 0 || clientHeight === 0) return;
    this.renderer.setPixelRatio(Math.min(2, devicePixelRatio));
    this.renderer.setSize(clientWidth, clientHeight, false);
    this.camera.aspect = clientWidth / clientHeight;
    this.camera.updateProjectionMatrix();
    this.draw();
  }

  private draw(): void {
    this.renderer.render(this.scene, this.camera);
  }
}

function meshesOf(model: Object3D): Mesh<BufferGeometry, MeshStandardMaterial>[] {
  const found: Mesh<BufferGeometry, MeshStandardMaterial>[] = [];
  model.traverse((one) => {
    if (one instanceof Mesh) found.push(one as Mesh<BufferGeometry, MeshStandardMaterial>);
  });
  return found;
}
