import "fake-indexeddb/auto";
import { vi } from "vitest";

// Each file's stand-ins are its own: what is ours is loaded anew, what lies in node_modules stays.
vi.resetModules();
