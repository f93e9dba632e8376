#include "app/window/ground_row.h"

#include "app/commands/colour_choice.h"

#include <QHBoxLayout>

namespace frelm {
namespace {

Colour first_of(const std::vector<Material>& materials) {
  constexpr Colour dark{0x22, 0x30, 0x3a};
  return materials.empty() ? dark : materials.front().colour;
}

} // namespace

GroundRow::GroundRow(Session& session, const QString& without, std::optional<Colour> ground)
    : ground_(ground), usual_(ground.value_or(first_of(session.document().materials))),
      kind_(new ChoiceRow(tr("Ground"), {without, tr("A colour")})), colour_(new QToolButton) {
  auto* line = new QHBoxLayout(this);
  line->setContentsMargins(0, 0, 0, 0);
  line->addWidget(kind_, 1);
  line->addWidget(colour_);
  colour_->setObjectName("flat");
  colour_->setAccessibleName(tr("Colour of the ground"));
  connect(kind_, &ChoiceRow::chosen, this,
          [this](int now) { choose(now == 1 ? std::optional(usual_) : std::nullopt); });
  connect(colour_, &QToolButton::clicked, this, [this, &session] {
    choose_colour(this, colour_->mapToGlobal(QPoint(0, colour_->height())), session, [this](Colour c) { choose(c); });
  });
  show_ground();
}

void GroundRow::choose(std::optional<Colour> ground) {
  ground_ = ground;
  usual_ = ground.value_or(usual_);
  show_ground();
  emit chosen(ground_);
}

void GroundRow::show_ground() {
  kind_->show_choice(ground_ ? 1 : 0);
  colour_->setVisible(ground_.has_value());
  colour_->setIcon(swatch(usual_, 18));
}

} // namespace frelm
