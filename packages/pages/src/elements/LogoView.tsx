import { usePage } from '../context';

export function LogoView() {
  return <div className="logo">{usePage().context.shop.name}</div>;
}
