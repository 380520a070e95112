<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="fr" sourcelanguage="en">
<context>
    <name></name>
    <message id="app_name">
        <source>Skerry Line</source>
        <extracomment>The name of the company; it stays as it is</extracomment>
        <translation type="unfinished"></translation>
    </message>
    <message id="website">
        <source>https://skerryline.example</source>
        <translation type="unfinished"></translation>
    </message>
    <message id="sailings_title">
        <source>Sailings</source>
        <extracomment>Title of the list of sailings</extracomment>
        <translation>Départs</translation>
    </message>
    <message id="sailings_today">
        <source>Today&apos;s sailings</source>
        <extracomment>Heading above the sailings of the day</extracomment>
        <translation>Départs du jour</translation>
    </message>
    <message id="sailings_none">
        <source>No sailings today</source>
        <extracomment>Shown when no ferry leaves today</extracomment>
        <translation>Aucun départ aujourd&apos;hui</translation>
    </message>
    <message id="sailing_route">
        <source>%1 to %2</source>
        <extracomment>One sailing: island of departure and of arrival</extracomment>
        <translation>%1 vers %2</translation>
    </message>
    <message id="sailing_departs">
        <source>Departs at %1</source>
        <extracomment>Time of departure of one sailing</extracomment>
        <translation>Départ à %1</translation>
    </message>
    <message id="sailing_duration" numerus="yes">
        <source>%n minutes</source>
        <extracomment>How long a crossing takes</extracomment>
        <translation>
            <numerusform>%n minute</numerusform>
            <numerusform>%n minutes</numerusform>
        </translation>
    </message>
    <message id="sailing_space">
        <source>%1% of the deck is free</source>
        <extracomment>How much of the car deck is still free</extracomment>
        <translation>%1 % du pont est libre</translation>
    </message>
    <message id="booking_title">
        <source>Book a crossing</source>
        <extracomment>Title of the booking screen</extracomment>
        <translation>Réserver une traversée</translation>
    </message>
    <message id="booking_passengers">
        <source>Passengers</source>
        <extracomment>Label of the number of passengers</extracomment>
        <translation>Passagers</translation>
    </message>
    <message id="booking_bicycles">
        <source>Bicycles</source>
        <extracomment>Label of the number of bicycles</extracomment>
        <translation>Vélos</translation>
    </message>
    <message id="booking_cars">
        <source>Cars</source>
        <extracomment>Label of the number of cars</extracomment>
        <translation>Voitures</translation>
    </message>
    <message id="booking_count_passengers" numerus="yes">
        <source>%n passengers</source>
        <translation>
            <numerusform>%n passager</numerusform>
            <numerusform>%n passagers</numerusform>
        </translation>
    </message>
    <message id="booking_count_bicycles" numerus="yes">
        <source>%n bicycles</source>
        <translation>
            <numerusform>%n vélo</numerusform>
            <numerusform>%n vélos</numerusform>
        </translation>
    </message>
    <message id="booking_price">
        <source>Total: %1</source>
        <extracomment>Price of the whole booking</extracomment>
        <translation>Prix total : %1</translation>
    </message>
    <message id="booking_confirm">
        <source>Confirm booking</source>
        <extracomment>Button that books and pays</extracomment>
        <translation>Confirmer la réservation</translation>
    </message>
    <message id="booking_done">
        <source>Your booking code is %1. Show it on board.</source>
        <extracomment>Shown after booking; the code is letters and digits</extracomment>
        <translation>Votre code de réservation est %1. Présentez-le à bord.</translation>
    </message>
    <message id="boarding_title">
        <source>Boarding pass</source>
        <extracomment>Title of the boarding pass</extracomment>
        <translation>Carte d&apos;embarquement</translation>
    </message>
    <message id="boarding_greeting">
        <source>Welcome aboard, %1!</source>
        <extracomment>Greets the passenger by first name</extracomment>
        <translation>Bienvenue à bord, %1 !</translation>
    </message>
    <message id="boarding_deck">
        <source>Deck %1</source>
        <extracomment>Number of the deck</extracomment>
        <translation>Pont %1</translation>
    </message>
    <message id="boarding_gate">
        <source>Go to pier &lt;b&gt;%1&lt;/b&gt;</source>
        <extracomment>The pier is a letter and a number</extracomment>
        <translation>Rendez-vous au quai &lt;b&gt;%1&lt;/b&gt;</translation>
    </message>
    <message id="boarding_closes" numerus="yes">
        <source>Boarding closes in %n minutes</source>
        <extracomment>Time left to board</extracomment>
        <translation>
            <numerusform>L&apos;embarquement se termine dans %n minute</numerusform>
            <numerusform>L&apos;embarquement se termine dans %n minutes</numerusform>
        </translation>
    </message>
    <message id="delay_title">
        <source>Weather delay</source>
        <extracomment>Title of the notice of a delay</extracomment>
        <translation>Retard dû à la météo</translation>
    </message>
    <message id="delay_reason">
        <source>Strong wind on the outer skerries</source>
        <translation>Vent fort au large des îlots</translation>
    </message>
    <message id="delay_minutes" numerus="yes">
        <source>Your sailing is %n minutes late</source>
        <extracomment>How late the sailing is</extracomment>
        <translation>
            <numerusform>Votre départ a %n minute de retard</numerusform>
            <numerusform>Votre départ a %n minutes de retard</numerusform>
        </translation>
    </message>
    <message id="delay_call">
        <source>Questions? Call %1</source>
        <extracomment>Telephone number of the harbour office</extracomment>
        <translation>Des questions ? Appelez le %1</translation>
    </message>
    <message id="map_title">
        <source>Harbour map</source>
        <extracomment>Title of the harbour map</extracomment>
        <translation>Plan du port</translation>
    </message>
    <message id="map_pier">
        <source>Pier %1</source>
        <extracomment>A pier on the map</extracomment>
        <translation>Quai %1</translation>
    </message>
    <message id="settings_title">
        <source>Settings</source>
        <translation>Réglages</translation>
    </message>
    <message id="settings_language">
        <source>Language</source>
        <extracomment>Label of the language menu</extracomment>
        <translation>Langue</translation>
    </message>
    <message id="settings_follow">
        <source>Follow the device</source>
        <extracomment>Choice in the language menu: the language of the device</extracomment>
        <translation>Comme l&apos;appareil</translation>
    </message>
    <message id="action_back">
        <source>Back</source>
        <extracomment>Button that goes to the screen before</extracomment>
        <translation>Retour</translation>
    </message>
    <message id="action_next">
        <source>Next</source>
        <extracomment>Button that goes on to the next step</extracomment>
        <translation>Suivant</translation>
    </message>
    <message id="action_cancel">
        <source>Cancel</source>
        <translation>Annuler</translation>
    </message>
    <message id="action_retry">
        <source>Try again</source>
        <translation>Réessayer</translation>
    </message>
</context>
</TS>
