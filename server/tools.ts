import type { Sequelize } from 'sequelize';
import { systemTools, type Tools } from './commands/context';
import type { Config } from './config';
import { openExchange } from './outside/exchange';
import { openGeocoder } from './outside/geocoder';
import { openLookUps } from './outside/lookups/open';
import { openOpenId } from './outside/openId';
import { openPost } from './outside/post';
import { openScanner } from './outside/scanner';
import { installed } from './rooms';
import { loadAllowedHosts } from './settings/hosts';

/** The tools of a process, with the services outside as the settings name them. */
export const toolsOf = (config: Config, sequelize: Sequelize): Tools =>
  systemTools(
    sequelize,
    {
      ours: config.ours,
      currency: config.currency,
      country: config.country,
      publicUrl: config.publicUrl,
      mapTiles: config.mapTiles,
    },
    {
      door: { allowed: config.fetchAllowed, alsoAllowed: () => loadAllowedHosts(sequelize) },
      exchange:
        config.exchangeUrl && config.exchangeSecret
          ? openExchange(config.exchangeUrl, config.exchangeSecret)
          : null,
      post: config.postServer ? openPost(config.postServer, config.mailFrom) : null,
      lookUps: openLookUps(config.lookUps),
      scanner: config.scanner ? openScanner(config.scanner) : null,
      openId: config.openId ? openOpenId(config.openId) : null,
      geocoder: config.geocoderUrl ? openGeocoder(config.geocoderUrl) : null,
      sealKey: config.sealKey,
    },
    installed,
  );
