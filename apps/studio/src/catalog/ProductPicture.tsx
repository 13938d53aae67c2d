/** A stored picture at its smallest width. */
export function ProductPicture({ id, className }: { id: string; className: string }) {
  return <img src={`/media/${id}/480.webp`} alt="" className={`${className} rounded-md object-cover`} />;
}
