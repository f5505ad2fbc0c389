import {
  BufferAttribute,
  BufferGeometry,
  Color,
  DoubleSide,
  Group,
  Matrix4,
  Mesh,
  MeshLambertMaterial,
  type Raycaster,
  type Sphere,
} from 'three';
import type { ObjectView } from '../context/context.service';

const COLOUR = new Color('#b9b6ad');
const CHOSEN = new Color('#7d9f9a');

/** A place of the object that is pointed at: the triangle, and where, in mm as in its file. */
export interface ObjectHit {
  readonly triangle: number;
  readonly place: readonly [number, number, number];
  /** How far from the eye. */
  readonly distance: number;
}

/** The object that a sign is for, as it is drawn with the model: in one quiet colour, what is chosen of it in another. */
export class ContextObject {
  readonly group = new Group();
  private readonly geometry = new BufferGeometry();
  private readonly mesh = new Mesh(this.geometry, new MeshLambertMaterial({ vertexColors: true, side: DoubleSide, polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 1 })); // prettier-ignore
  private corners: Float32Array | undefined;
  /** Where it is, as it was told last. */
  place: readonly number[] | undefined;

  constructor() {
    this.mesh.matrixAutoUpdate = false;
    this.mesh.receiveShadow = true;
    this.group.add(this.mesh);
    this.group.visible = false;
  }

  /** @returns whether it is another one than before */
  show(object: ObjectView | undefined): boolean {
    this.group.visible = object !== undefined;
    if (!object) {
      this.corners = this.place = undefined;
      return false;
    }
    const { corners, chosen, place } = object;
    const isNew = corners !== this.corners;
    this.place = place;
    if (isNew) {
      this.corners = corners;
      this.geometry.setAttribute('position', new BufferAttribute(corners, 3));
      this.geometry.computeVertexNormals();
      this.geometry.computeBoundingSphere();
      this.geometry.computeBoundingBox();
    }
    const colours = new Float32Array(corners.length);
    for (let i = 0; i < corners.length; i += 3) COLOUR.toArray(colours, i);
    for (const triangle of chosen) for (let k = 0; k < 3; k++) CHOSEN.toArray(colours, 9 * triangle + 3 * k);
    this.geometry.setAttribute('color', new BufferAttribute(colours, 3));
    const [a, b, c, d, e, f, g, h, i, j, k, l] = place;
    this.mesh.matrix = new Matrix4(a, b, c, d, e, f, g, h, i, j, k, l, 0, 0, 0, 1);
    this.mesh.matrixWorldNeedsUpdate = true;
    return isNew;
  }

  /** What a ray meets first. */
  hit(ray: Raycaster): ObjectHit | undefined {
    if (!this.group.visible) return undefined;
    const [first] = ray.intersectObject(this.mesh, false);
    if (!first || first.faceIndex === undefined || first.faceIndex === null) return undefined;
    const place = first.point.clone().applyMatrix4(this.mesh.matrixWorld.clone().invert());
    return { triangle: first.faceIndex, place: [place.x, place.y, place.z], distance: first.distance };
  }

  /** The least sphere around it, where it stands; undefined where nothing is shown. */
  get sphere(): Sphere | undefined {
    return this.group.visible ? this.geometry.boundingSphere?.clone().applyMatrix4(this.mesh.matrix) : undefined;
  }

  dispose(): void {
    this.geometry.dispose();
    this.mesh.material.dispose();
  }
}
