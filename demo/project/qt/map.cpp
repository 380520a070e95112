#include "map.h"

void HarbourMap::pier(const QString &name)
{
    pierLabel->setText(qtTrId("map_pier").arg(name));
}
