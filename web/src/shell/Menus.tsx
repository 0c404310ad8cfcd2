import { t as tr } from '@lingui/core/macro';
import { Account } from './Account';
import { Menu, MenuPage } from './Menu';
import { useShopPages, useTools } from './pages';

/** The lists of the bar: tools, shop, person. */
export function Menus({ opened }: { opened: string | null }) {
  const shop = useShopPages();
  const tools = useTools();
  return (
    <>
      <Menu label={tr`Tools`} opened={opened === 'Tools'}>
        {tools.map((p) => (
          <MenuPage key={p.path} page={p} />
        ))}
      </Menu>
      <Menu label={tr`Shop`} opened={opened === 'Shop'}>
        {shop.map((p) => (
          <MenuPage key={p.path} page={p} />
        ))}
      </Menu>
      <Account opened={opened !== null && opened !== 'Tools' && opened !== 'Shop'} />
    </>
  );
}
