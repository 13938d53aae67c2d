import { usePage } from '../context';

/** The shop's sign, or its name in the brand's headline type. */
export function LogoView() {
  const { brand, shop, assetBase, pictures } = usePage().context;
  const sign = brand.logoId ? pictures[brand.logoId] : undefined;
  return (
    <div className="logo">
      {brand.logoId ? (
        <img src={`${assetBase}/media/${brand.logoId}/480.webp`} alt={shop.name} {...(sign ? { width: sign.width, height: sign.height } : { height: 44 })} />
      ) : (
        shop.name
      )}
    </div>
  );
}
