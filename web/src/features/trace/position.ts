import { Refusal } from "../../api/client";

interface Position {
  latitude: number;
  longitude: number;
  accuracy_m: number;
}

const FIX: Record<number, string> = {
  1: "Allow this page to see the device's position, or place the station by tapes.",
  2: "Step into the open and try again, or place the station by tapes.",
  3: "Step into the open and try again, or place the station by tapes.",
};

/** Where the device is now; refused in words where it will not say. */
export function positionNow(): Promise<Position> {
  const refuse = (message: string, fix: string) => new Refusal("", message, fix, "position");
  return new Promise((resolve, reject) => {
    if (!("geolocation" in navigator) || !window.isSecureContext) {
      reject(
        refuse(
          "This browser does not tell its position here.",
          "It does so over a secure (https) connection only; place the station by tapes.",
        ),
      );
      return;
    }
    navigator.geolocation.getCurrentPosition(
      ({ coords: c }) => resolve({ latitude: c.latitude, longitude: c.longitude, accuracy_m: c.accuracy }),
      (e) => reject(refuse("The device gave no position.", FIX[e.code] ?? "Place the station by tapes.")),
      { enableHighAccuracy: true, timeout: 20_000, maximumAge: 0 },
    );
  });
}
