export function DividerView() {
  return <hr className="divider" />;
}
